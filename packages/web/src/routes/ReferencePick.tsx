import type { Offered } from './workbench';

/** Picks a question, or what is said about the submission. One that is not known any more stays and is shown. */
export function ReferencePick({
  references,
  value,
  onPick,
  none,
  withExamples = false,
  ...rest
}: {
  references: Offered[];
  value: string;
  onPick: (key: string) => void;
  /** The words for picking nothing; without them something has to be picked. */
  none?: string;
  withExamples?: boolean;
  id?: string;
  className?: string;
  'aria-label'?: string;
  'aria-describedby'?: string;
  'aria-invalid'?: boolean;
}) {
  const isKnown = value === '' || references.some(each => each.key === value);
  const option = ({ key, label, example }: Offered) => (
    <option key={key} value={key}>
      {label}
      {withExamples && example ? ` — ${example.slice(0, 40)}` : ''}
    </option>
  );
  return (
    <select
      {...rest}
      className={`write text-lapis ${rest.className ?? ''}`}
      value={value}
      onChange={event => onPick(event.target.value)}
    >
      {none !== undefined && <option value="">{none}</option>}
      {!isKnown && <option value={value}>{value} (not seen any more)</option>}
      <optgroup label="Questions">{references.filter(each => each.isQuestion).map(option)}</optgroup>
      {references.some(each => each.group === 'delivery') && (
        <optgroup label="Known as it is delivered">
          {references.filter(each => each.group === 'delivery').map(option)}
        </optgroup>
      )}
      <optgroup label="About the submission">{references.filter(each => each.group === 'about').map(option)}</optgroup>
    </select>
  );
}
