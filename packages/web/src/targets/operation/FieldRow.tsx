import type { OperationFieldInput } from '@grammata/contract';
import { targetTypes, type TargetType } from '@grammata/core/target';
import { useState, type KeyboardEvent } from 'react';
import { useWatch } from 'react-hook-form';
import { Act, Choice, LinesBox, NumberBox, TextBox, Tick } from '../../ui';
import { useShown } from '../../ui/form';
import { formatNames, typeNames } from '../fieldWords';
import { useFields } from './form';
import { followsItsName, optionLines, optionsFrom, placeFor, pointerFrom, textOfValue, typedValue } from './values';

const placeNames = { body: 'body', query: 'query', header: 'header', path: 'path' } as const;
type Place = keyof typeof placeNames;

/** The columns of a field and of what stands above them. */
export const fieldColumns = 'grid-cols-2 gap-x-4 gap-y-1 md:grid-cols-[minmax(0,1fr)_7.5rem_9.5rem_6.5rem_3rem]';

/** One field of an operation: its name, where it goes, what it takes; opened, all that is known of it. */
export function FieldRow({ index, onRemove }: { index: number; onRemove: () => void }) {
  const [fields, setFields, { control, formState, clearErrors }] = useFields();
  const [isOpen, setOpen] = useState(false);
  const field = fields[index]!;
  const hasBody = useWatch({ control, name: 'method' }) !== 'GET';
  const at = `fields.${index}` as const;
  useShown(...['key', 'pointer', 'in', 'options', 'pattern', 'maxLength'].map(part => `${at}.${part}`));
  const errors = (formState.errors.fields?.[index] ?? {}) as Record<string, { message?: string } | undefined>;
  const errorOf = (...parts: string[]) => parts.map(part => errors[part]?.message).find(Boolean) ?? null;
  const set = (more: Partial<OperationFieldInput>) => {
    clearErrors(at);
    setFields(fields.map((each, other) => (other === index ? { ...each, ...more } : each)));
  };
  const rename = (key: string) =>
    set({ key, ...(followsItsName(field) && field.in !== 'path' && { pointer: placeFor(key, field.in) }) });
  const move = (place: Place) => {
    const to = place === 'body' ? undefined : place;
    set({ in: to, pointer: placeFor(field.key, to) });
  };
  const name = field.key || `field ${index + 1}`;
  const isInPath = field.in === 'path';
  return (
    <li className="py-2" aria-label={name}>
      <div className={`grid ${fieldColumns} items-center`}>
        <TextBox
          label={`Name of ${name}`}
          isBare
          look="code"
          value={field.key}
          onChange={rename}
          error={errorOf('key')}
        />
        <Choice<Place>
          label={`Part of the request for ${name}`}
          isBare
          value={field.in ?? 'body'}
          options={
            isInPath
              ? { path: placeNames.path }
              : hasBody
                ? { body: placeNames.body, query: placeNames.query, header: placeNames.header }
                : { query: placeNames.query, header: placeNames.header, ...(!field.in && { body: placeNames.body }) }
          }
          onChange={move}
          error={errorOf('in')}
        />
        <Choice<TargetType>
          label={`${name} takes`}
          isBare
          value={field.type}
          options={Object.fromEntries(targetTypes.map(each => [each, typeNames[each]]))}
          onChange={type => set({ type, ...(type !== 'choices' && { items: undefined }) })}
        />
        <Tick
          label={
            <>
              <span className="sr-only">{name}: </span>required
            </>
          }
          checked={field.required}
          onChange={required => set({ required })}
        />
        <span className="text-right whitespace-nowrap">
          <Act onClick={() => setOpen(!isOpen)} aria-expanded={isOpen} aria-label={`More of ${name}`}>
            {isOpen ? 'Less' : 'More'}
          </Act>
        </span>
      </div>
      {!isOpen && errorOf('pointer', 'options', 'pattern', 'maxLength') && (
        <p className="mt-1 text-crimson">! {errorOf('pointer', 'options', 'pattern', 'maxLength')}</p>
      )}
      {isOpen && (
        <div className="mt-3 mb-2 grid gap-x-6 gap-y-3 border-l border-rule-strong pl-4 sm:grid-cols-2">
          <TextBox label="Label" value={field.label} onChange={label => set({ label })} />
          <TextBox
            label="Place"
            look="code"
            hint={field.in ? 'Name in the request.' : 'JSON Pointer. Leave empty for the whole body.'}
            value={field.pointer}
            readOnly={isInPath}
            onChange={pointer => set({ pointer })}
            onBlur={() => !field.in && set({ pointer: pointerFrom(field.pointer) })}
            error={errorOf('pointer')}
          />
          <TextBox
            label="Description"
            className="sm:col-span-2"
            value={field.description ?? ''}
            onChange={description => set({ description: description || null })}
          />
          <Kept
            label="Fixed value"
            hint="Used unless a line fills it. Leave empty for none."
            value={textOfValue(field.fixed)}
            onDone={text => set({ fixed: typedValue(field, text) })}
          />
          {field.type === 'choices' ? (
            <Choice
              label="Type of items"
              value={field.items ?? 'text'}
              options={{ text: 'text', integer: 'a whole number', number: 'a number', boolean: 'true or false' }}
              onChange={items => set({ items: items === 'text' ? undefined : items })}
            />
          ) : (
            <Choice
              label="Text format"
              value={field.format ?? 'none'}
              options={{ none: 'anything', ...formatNames }}
              onChange={format => set({ format: format === 'none' ? undefined : format })}
            />
          )}
          <Kept
            label="Options"
            rows={4}
            hint="One per line: value = label."
            value={optionLines(field)}
            onDone={text => set(optionsFrom(text))}
            error={errorOf('options')}
          />
          <div className="space-y-3">
            <NumberBox
              label="Maximum length"
              value={field.maxLength}
              whenEmpty="null"
              onChange={maxLength => set({ maxLength: maxLength as number | null })}
              error={errorOf('maxLength')}
            />
            <Tick label="Read-only" checked={field.readOnly} onChange={readOnly => set({ readOnly })} />
            {!isInPath && (
              <Act onClick={onRemove} aria-label={`Remove ${name}`}>
                Remove field
              </Act>
            )}
          </div>
        </div>
      )}
    </li>
  );
}

/** A text that is taken once it is left: what it means is read as a whole. */
function Kept({
  rows = 1,
  value,
  onDone,
  ...rest
}: {
  label: string;
  hint: string;
  /** Lines that are shown; one is a line of text. */
  rows?: number;
  value: string;
  error?: string | null;
  onDone: (text: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const box = {
    ...rest,
    look: 'code' as const,
    value: typed ?? value,
    onChange: setTyped,
    onBlur: () => {
      if (typed !== null) onDone(typed);
      setTyped(null);
    },
    // Enter stores the form: what is typed here goes with it.
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key === 'Enter' && typed !== null && rows === 1) onDone(typed);
    },
  };
  return rows > 1 ? <LinesBox {...box} rows={rows} /> : <TextBox {...box} />;
}
