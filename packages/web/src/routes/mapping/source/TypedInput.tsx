import { asText, isBrokenJson, parseJson, type Json } from '@grammata/core/submission';
import { exampleFor, optionName, refusal, type TargetField } from '@grammata/core/target';
import { useState } from 'react';
import { Choice, Combobox, LinesBox, ListBox, numberIn, TextBox, Tick, useTyped } from '../../../ui';

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
      <Choice label={label} look="code" none="choose…" value={asText(value)} options={options} onChange={onChange} />
    ) : (
      <Combobox label={label} none="none" value={asText(value)} options={options} onPick={onChange} />
    );
  }
  if (field?.type === 'boolean')
    return (
      <Choice
        label={label}
        look="code"
        none="choose…"
        value={String(value)}
        options={{ true: 'true', false: 'false' }}
        onChange={next => onChange(next === '' ? '' : next === 'true')}
      />
    );
  if (field?.type === 'choices') {
    const items = itemsIn(value);
    if (field.options) return <OptionTicks label={label} field={field} items={items.map(asText)} onChange={onChange} />;
    const wrong = items.find(each => refusal({ ...field, options: null }, [each]) !== null);
    return (
      <ListBox
        label={label}
        look="code"
        hint="Separate with commas."
        error={wrong === undefined ? null : `“${asText(wrong)}” is not ${itemWords[field.items ?? 'text']}.`}
        items={items.map(asText)}
        onChange={texts => onChange(texts.map(each => itemOf(field, each)))}
      />
    );
  }
  if (field?.type === 'json') return <JsonInput label={label} value={value} onChange={onChange} />;
  return <Typed label={label} field={field} value={value} onChange={onChange} />;
}

const itemsIn = (value: Json): Json[] => (Array.isArray(value) ? value : asText(value) === '' ? [] : [value]);

const itemWords = { number: 'a number', integer: 'a whole number', boolean: 'true or false', text: 'text' };

/** An item of a list as it was written, of the type that the list takes; what is none of that type stays text, and is refused. */
export function itemOf({ items }: Pick<TargetField, 'items'>, text: string): Json {
  if (items === 'boolean') return text === 'true' ? true : text === 'false' ? false : text;
  const number = items ? numberIn(text) : null;
  return number === null || Number.isNaN(number) ? text : number;
}

/** A value picked by hand as a field takes it: one more in a list, a number where it takes numbers. */
export function picked(field: TargetField | null, before: Json, text: string): Json {
  if (field?.type === 'choices') {
    const [items, item] = [itemsIn(before), itemOf(field, text)];
    return items.includes(item) ? items : [...items, item];
  }
  return field?.type === 'number' || field?.type === 'integer' ? itemOf({ items: field.type }, text) : text;
}

/** Several of a field's options: ticked where they are few, added one by one where they are many. */
function OptionTicks({
  label,
  field,
  items,
  onChange,
}: {
  label: string;
  field: TargetField;
  items: string[];
  onChange: (value: Json) => void;
}) {
  const options = field.options ?? [];
  const change = (next: string[]) => onChange(next.map(each => itemOf(field, each)));
  const toggle = (option: string) =>
    change(items.includes(option) ? items.filter(each => each !== option) : [...items, option]);
  const gone = items.filter(each => !options.includes(each));
  const ticked = options.length < MANY ? [...options, ...gone] : items;
  return (
    <fieldset>
      <legend className="text-small text-ink-2">{label}</legend>
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        {ticked.map(option => (
          <Tick
            key={option}
            label={gone.includes(option) ? `${option} (not listed)` : optionName(field, option)}
            checked={items.includes(option)}
            onChange={() => toggle(option)}
          />
        ))}
      </div>
      {options.length >= MANY && (
        <Combobox
          label={`Add to ${label}`}
          isBare
          placeholder="add…"
          options={options
            .filter(each => !items.includes(each))
            .map(each => ({ value: each, label: optionName(field, each), words: each }))}
          value=""
          onPick={toggle}
        />
      )}
    </fieldset>
  );
}

/** Any JSON: what begins like an object or a list has to be one; other words are text. */
function JsonInput({ label, value, onChange }: Omit<Parameters<typeof TypedInput>[0], 'field'>) {
  const [text, type] = useTyped(value, writtenJson);
  return (
    <LinesBox
      label={label}
      look="code"
      spellCheck={false}
      rows={Math.min(12, Math.max(2, text.split('\n').length))}
      placeholder={'[{"email": "…"}]'}
      hint="JSON; other words are sent as text."
      error={isBrokenJson(text) ? 'Not valid JSON.' : null}
      value={text}
      onChange={next => {
        const means = parseJson(next.trim()) ?? next;
        type(next, means);
        onChange(means);
      }}
    />
  );
}

const writtenJson = (value: Json): string =>
  typeof value === 'string'
    ? parseJson(value) === undefined
      ? value
      : JSON.stringify(value)
    : JSON.stringify(value, null, 2);

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
      error={isNumber && text.trim() !== '' && typeof read(text) !== 'number' ? 'Enter a number.' : null}
      onChange={next => {
        setText(next);
        setTold(read(next));
        onChange(read(next));
      }}
    />
  );
}
