import { optionName, type TargetField } from '@grammata/core/target';
import { formatNames, typeNames } from './fieldWords';

/** The fields of an operation, a line each. */
export const Fields = ({ fields }: { fields: readonly TargetField[] }) => (
  <ul className="ledger">
    {fields.map(field => (
      <li
        key={field.key}
        className="grid grid-cols-[11rem_minmax(0,1fr)] gap-x-5 py-1.5 md:grid-cols-[11rem_13rem_8rem_minmax(0,1fr)]"
      >
        <code className="font-mono text-small font-medium break-words">
          {field.key}
          {field.required && (
            <b className="text-oxide" aria-label="required">
              *
            </b>
          )}
        </code>
        <span>{field.label}</span>
        <span className="text-ink-2 max-md:hidden">
          {typeNames[field.type]}
          {field.in && <span className="text-ink-3">, {field.in}</span>}
        </span>
        <span className="min-w-0 text-small break-words text-ink-2 max-md:hidden">{about(field)}</span>
      </li>
    ))}
  </ul>
);

const about = ({
  readOnly,
  fixed,
  options,
  optionNames,
  maxLength,
  description,
  format,
  minimum,
  maximum,
  pattern,
}: TargetField): string =>
  [
    readOnly && 'read-only',
    fixed !== undefined && `always ${typeof fixed === 'string' ? `“${fixed}”` : JSON.stringify(fixed)}`,
    format && formatNames[format],
    minimum !== undefined && `from ${minimum}`,
    maximum !== undefined && `to ${maximum}`,
    pattern !== undefined && `matches ${pattern}`,
    maxLength !== null && `up to ${maxLength} characters`,
    description,
    options?.map(each => optionName({ optionNames }, each)).join(' · '),
  ]
    .filter(Boolean)
    .join('; ');
