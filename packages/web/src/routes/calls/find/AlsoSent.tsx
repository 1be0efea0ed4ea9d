import type { FindInput } from '@grammata/contract';
import { newLine } from '@grammata/core/route';
import type { Operation } from '@grammata/core/target';
import { Act, Combobox } from '../../../ui';
import { TypedInput } from '../../mapping/source/TypedInput';
import { lineId } from '../../mapping/useLines';
import { ReferencePick, type Offered } from '../../workbench';

type Lines = NonNullable<FindInput['lines']>;

/** What a look-up sends beside what is looked for: values that stay the same, or answers. */
export function AlsoSent({
  finder,
  find,
  references,
  onChange,
}: {
  finder: Operation;
  find: FindInput;
  references: Offered[];
  onChange: (find: FindInput) => void;
}) {
  const lines = find.lines ?? [];
  const set = (next: Lines) => onChange({ ...find, lines: next });
  const change = (id: string, source: Lines[number]['source']) =>
    set(lines.map(each => (each.id === id ? { ...each, source } : each)));
  const used = new Set([find.line.to, ...lines.map(each => each.to)]);
  const free = finder.fields.filter(field => !field.readOnly && !used.has(field.key));
  return (
    <div className="mt-3 space-y-3">
      {lines.map(line => (
        <div key={line.id} className="flex flex-wrap items-end gap-x-6 gap-y-2">
          {line.source?.from === 'field' ? (
            <ReferencePick
              label={`Value of ${line.to}`}
              className="w-72 max-w-full"
              references={references}
              value={line.source.field}
              onPick={key => change(line.id, { from: 'field', field: key })}
            />
          ) : (
            <div className="w-72 max-w-full">
              <TypedInput
                label={`Value of ${line.to}`}
                field={finder.fields.find(each => each.key === line.to) ?? null}
                value={line.source?.from === 'constant' ? line.source.value : ''}
                onChange={value => change(line.id, { from: 'constant', value })}
              />
            </div>
          )}
          {line.source?.from === 'field' ? (
            <Act onClick={() => change(line.id, { from: 'constant', value: '' })}>Use a fixed value</Act>
          ) : (
            <Act onClick={() => change(line.id, { from: 'field', field: references[0]?.key ?? '' })}>Use an answer</Act>
          )}
          <Act aria-label={`Remove ${line.to}`} onClick={() => set(lines.filter(each => each.id !== line.id))}>
            Remove
          </Act>
        </div>
      ))}
      {free.length > 0 && (
        <Combobox
          label="Other parameters"
          className="sm:w-1/2"
          placeholder="add a parameter…"
          options={free.map(({ key, label, required }) => ({
            value: key,
            label: key,
            says: label === key ? undefined : label,
            detail: required ? 'required' : undefined,
          }))}
          value=""
          onPick={key => set([...lines, { ...newLine(lineId(), key), source: { from: 'constant', value: '' } }])}
        />
      )}
    </div>
  );
}
