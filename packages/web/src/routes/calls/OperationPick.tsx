import type { TargetView } from '@grammata/contract';
import { isWriting } from '@grammata/core/target';
import { Combobox, type Said } from '../../ui';

/** Picks what a target is to do. The value is the target’s id and the operation’s, with a line break between. */
export function OperationPick({
  targets,
  ...rest
}: Said & { targets: TargetView[]; value: string; onPick: (value: string) => void }) {
  const options = targets.flatMap(target =>
    target.operations.filter(isWriting).map(({ id, label, method, path }) => ({
      value: `${target.id}\n${id}`,
      label,
      group: target.name,
      words: `${target.name} ${method} ${path}`,
      detail: path.startsWith('/') && target.reads !== 'mail' ? `${method} ${path}` : undefined,
    })),
  );
  return <Combobox {...rest} options={options} placeholder="pick what it is to do…" prompt="Type what it is to do" />;
}
