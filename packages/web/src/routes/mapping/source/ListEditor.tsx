import { compileLine } from '@grammata/core/request';
import { newLine, type ListEntry, type ListPart, type Source } from '@grammata/core/route';
import { Act, Choice, TextBox } from '../../../ui';
import { itemReferences, ReferencePick, type Offered, useWorkbench } from '../../workbench';
import { Steps } from '../steps/Steps';
import { lineId } from '../useLines';
import { kindOf } from './kindOf';
import { TypedInput } from './TypedInput';

type ListSource = Extract<Source, { from: 'list' }>;

const shapes: Record<ListEntry['as'], string> = {
  object: 'object with named parts',
  row: 'row, parts by position',
  value: 'single value',
};

export const newPart = (name = '', source: ListPart['source'] = null): ListPart => ({ name, source, cleaning: [] });
export const newEntry = (parts: ListPart[] = [newPart()]): ListEntry => ({ id: lineId(), as: 'object', parts });

/** A list that is written part by part: entries that stand once, and entries for each item of an answer. */
export function ListEditor({ source, onChange }: { source: ListSource; onChange: (source: ListSource) => void }) {
  const { entries } = source;
  const set = (next: ListEntry[]) => onChange({ ...source, entries: next });
  const [last] = entries.slice(-1);
  return (
    <div className="space-y-3">
      <ol className="space-y-3">
        {entries.map((entry, at) => (
          <li key={entry.id}>
            <Entry
              entry={entry}
              number={at + 1}
              onChange={next => set(entries.map(each => (each.id === entry.id ? next : each)))}
              onRemove={() => set(entries.filter(each => each.id !== entry.id))}
            />
          </li>
        ))}
      </ol>
      <Act
        onClick={() =>
          // The next entry is most often built like the one before it.
          set([
            ...entries,
            last ? { ...last, id: lineId(), parts: last.parts.map(({ name }) => newPart(name)) } : newEntry(),
          ])
        }
      >
        Add entry
      </Act>
    </div>
  );
}

/** Answers that may hold several things. */
const isList = ({ kind, isQuestion }: Offered) => isQuestion && ['files', 'choices', 'table', 'json'].includes(kind);

function Entry({
  entry,
  number,
  onChange,
  onRemove,
}: {
  entry: ListEntry;
  number: number;
  onChange: (entry: ListEntry) => void;
  onRemove: () => void;
}) {
  const { references, route, samples } = useWorkbench('route', 'walk', 'offers');
  const known = entry.each
    ? [...itemReferences(entry.each, route.form.schema, samples, references), ...references]
    : references;
  const set = (at: number, part: ListPart) =>
    onChange({ ...entry, parts: entry.parts.map((each, index) => (index === at ? part : each)) });
  return (
    <fieldset className="border-l-2 border-rule pl-3.5">
      <legend className="text-small text-ink-2">
        Entry {number}
        <Act className="ml-3" aria-label={`Remove entry ${number}`} onClick={onRemove}>
          remove
        </Act>
      </legend>
      <div className="grid gap-x-6 gap-y-2 sm:grid-cols-2">
        <Choice
          label="Entry type"
          value={entry.as}
          options={shapes}
          onChange={as => onChange({ ...entry, as, parts: as === 'value' ? entry.parts.slice(0, 1) : entry.parts })}
        />
        <ReferencePick
          label="Sent as"
          references={references.filter(isList)}
          value={entry.each ?? ''}
          none="once"
          onPick={key => {
            const { each: _, ...rest } = entry;
            onChange(key ? { ...rest, each: key } : rest);
          }}
        />
      </div>
      {entry.parts.map((part, at) => (
        <Part
          key={at}
          references={known}
          part={part}
          label={entry.as === 'object' ? part.name || `part ${at + 1}` : `part ${at + 1}`}
          isNamed={entry.as === 'object'}
          onChange={next => set(at, next)}
          onRemove={
            entry.parts.length > 1
              ? () => onChange({ ...entry, parts: entry.parts.filter((_, index) => index !== at) })
              : null
          }
        />
      ))}
      {entry.as !== 'value' && (
        <Act onClick={() => onChange({ ...entry, parts: [...entry.parts, newPart()] })}>Add part</Act>
      )}
    </fieldset>
  );
}

function Part({
  references,
  part,
  label,
  isNamed,
  onChange,
  onRemove,
}: {
  references: Offered[];
  part: ListPart;
  label: string;
  isNamed: boolean;
  onChange: (part: ListPart) => void;
  onRemove: (() => void) | null;
}) {
  const { source } = part;
  const isTyped = source?.from === 'constant';
  const line = { ...newLine(label, label), source, cleaning: part.cleaning };
  return (
    <div className="mt-2">
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        {isNamed && (
          <TextBox
            label="Name"
            className="w-36"
            look="code"
            value={part.name}
            onChange={name => onChange({ ...part, name })}
          />
        )}
        {isTyped ? (
          <div className="w-56 max-w-full">
            <TypedInput
              label={`Value of ${label}`}
              field={null}
              value={source.value}
              onChange={value => onChange({ ...part, source: { from: 'constant', value } })}
            />
          </div>
        ) : (
          <ReferencePick
            label={`Answer for ${label}`}
            className="w-56 max-w-full"
            references={references}
            value={source?.from === 'field' ? source.field : ''}
            placeholder="choose an answer…"
            onPick={key => onChange({ ...part, source: { from: 'field', field: key } })}
          />
        )}
        <Act
          aria-label={isTyped ? `Use an answer for ${label}` : `Fixed value for ${label}`}
          onClick={() => onChange({ ...part, source: isTyped ? null : { from: 'constant', value: '' } })}
        >
          {isTyped ? 'use an answer' : 'fixed value'}
        </Act>
        {onRemove && (
          <Act aria-label={`Remove ${label}`} onClick={onRemove}>
            remove
          </Act>
        )}
      </div>
      {source && !isTyped && (
        <Steps
          compiled={compileLine(line, null)}
          kind={kindOf(source, references)}
          edit={change => onChange({ ...part, cleaning: change(line).cleaning })}
        />
      )}
    </div>
  );
}
