import { asText, type Json } from '@grammata/core/submission';
import { exampleFor, type TargetField } from '@grammata/core/target';

/** A value typed by hand, of the field's type: its options to pick from where it has some. */
export function TypedInput({
  ids,
  field,
  value,
  onChange,
}: {
  ids: { id: string };
  field: TargetField | null;
  value: Json;
  onChange: (value: Json) => void;
}) {
  if (field?.options && field.type === 'choice') {
    return (
      <select
        {...ids}
        className="write font-mono text-small"
        value={asText(value)}
        onChange={event => onChange(event.target.value)}
      >
        <option value="">pick one…</option>
        {field.options.map(option => (
          <option key={option}>{option}</option>
        ))}
      </select>
    );
  }
  if (field?.type === 'boolean') {
    return (
      <select
        {...ids}
        className="write font-mono text-small"
        value={String(value)}
        onChange={event => onChange(event.target.value === '' ? '' : event.target.value === 'true')}
      >
        <option value="">pick one…</option>
        <option>true</option>
        <option>false</option>
      </select>
    );
  }
  const read = (text: string): Json => {
    if ((field?.type === 'number' || field?.type === 'integer') && text.trim() !== '' && Number.isFinite(Number(text)))
      return Number(text);
    if (field?.type === 'choices')
      return text
        .split(',')
        .map(each => each.trim())
        .filter(Boolean);
    return text;
  };
  return (
    <input
      {...ids}
      className="write font-mono text-small"
      defaultValue={asText(value)}
      placeholder={asText(field ? exampleFor(field) : '')}
      onChange={event => onChange(read(event.target.value))}
    />
  );
}
