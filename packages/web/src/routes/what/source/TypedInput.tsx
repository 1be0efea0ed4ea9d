import { asText, type Json } from '@grammata/core/submission';
import { exampleFor, optionName, type TargetField } from '@grammata/core/target';
import { useState } from 'react';
import { Choice, Combobox, ListBox, numberIn, TextBox } from '../../../ui';

/** From that many options on they are searched rather than listed. */
const MANY = 12;

/** A value typed by hand, of the field's type: its options to pick from where it has some. */
export function TypedInput({
  label,
  field,
  value,
  onChange,
}: {
  label: string;
  field: TargetField | null;
  value: Json;
  onChange: (value: Json) => void;
}) {
  if (field?.options && field.type === 'choice') {
    const options = field.options.map(each => ({ value: each, label: optionName(field, each) }));
    return options.length < MANY ? (
      <Choice label={label} look="code" none="pick one…" value={asText(value)} options={options} onChange={onChange} />
    ) : (
      <Combobox label={label} none="none" value={asText(value)} options={options} onPick={onChange} />
    );
  }
  if (field?.type === 'boolean')
    return (
      <Choice
        label={label}
        look="code"
        none="pick one…"
        value={String(value)}
        options={{ true: 'true', false: 'false' }}
        onChange={next => onChange(next === '' ? '' : next === 'true')}
      />
    );
  if (field?.type === 'choices')
    return (
      <ListBox
        label={label}
        look="code"
        hint="With commas between."
        items={Array.isArray(value) ? value.map(asText) : asText(value) === '' ? [] : [asText(value)]}
        onChange={onChange}
      />
    );
  return <Typed label={label} field={field} value={value} onChange={onChange} />;
}

/** What is written stays as it is; numbers are numbers where the field takes them. */
function Typed({ label, field, value, onChange }: Parameters<typeof TypedInput>[0]) {
  const [text, setText] = useState(asText(value));
  const isNumber = field?.type === 'number' || field?.type === 'integer';
  const read = (written: string): Json => {
    const number = isNumber ? numberIn(written) : Number.NaN;
    return number === null || Number.isNaN(number) ? written : number;
  };
  const [told, setTold] = useState(value);
  if (asText(told) !== asText(value)) {
    setTold(value);
    setText(asText(value));
  }
  return (
    <TextBox
      label={label}
      look="code"
      value={text}
      placeholder={asText(field ? exampleFor(field) : '')}
      error={isNumber && text.trim() !== '' && typeof read(text) !== 'number' ? 'The field takes a number.' : null}
      onChange={next => {
        setText(next);
        setTold(read(next));
        onChange(read(next));
      }}
    />
  );
}
