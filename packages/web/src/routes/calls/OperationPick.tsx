import type { OfferedView } from '@grammata/contract';
import { isReading, isWriting } from '@grammata/core/target';
import { Combobox, type ControlTexts } from '../../ui';

/**
 * Picks what a target is to do. The value is the target’s id and the operation’s, with a line break between.
 * @param reads whether what only reads is offered too: its answer is for the calls behind it
 */
export function OperationPick({
  targets,
  reads = false,
  ...rest
}: ControlTexts & { targets: OfferedView[]; reads?: boolean; value: string; onPick: (value: string) => void }) {
  const options = targets.flatMap(target => {
    const offered = (operations: typeof target.operations, group: string) =>
      operations.map(({ id, label, method, path }) => ({
        value: `${target.id}\n${id}`,
        label,
        group,
        words: `${target.name} ${method} ${path}`,
        detail: path.startsWith('/') && target.reads !== 'mail' ? `${method} ${path}` : undefined,
      }));
    const reading = reads ? target.operations.filter(isReading) : [];
    return [
      ...offered(target.operations.filter(isWriting), target.name),
      ...offered(reading, `${target.name}, read only`),
    ];
  });
  return <Combobox {...rest} options={options} placeholder="choose an operation…" prompt="Choose an operation" />;
}
