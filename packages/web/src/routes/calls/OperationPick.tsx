import type { TargetView } from '@grammata/contract';
import { isWriting } from '@grammata/core/target';

/** Picks what a target is to do. The value is the target’s id and the operation’s, with a line break between. */
export const OperationPick = ({
  ids,
  targets,
  value,
  onPick,
}: {
  ids: { id: string; 'aria-describedby'?: string };
  targets: TargetView[];
  value: string;
  onPick: (value: string) => void;
}) => (
  <select {...ids} className="write" value={value} onChange={event => onPick(event.target.value)} required>
    <option value="">pick what it is to do…</option>
    {targets.map(each => (
      <optgroup key={each.id} label={each.name}>
        {each.operations.filter(isWriting).map(operation => (
          <option key={operation.id} value={`${each.id}\n${operation.id}`}>
            {operation.label}
          </option>
        ))}
      </optgroup>
    ))}
  </select>
);
