import { fieldsOf, flatSegments, type Line, type Source } from '@grammata/core/route';
import type { Json } from '@grammata/core/submission';
import type { TargetField } from '@grammata/core/target';
import { lazy, Suspense, useId, useMemo, useRef, useState } from 'react';
import { Act, Choice, Radios, Tick } from '../../../ui';
import { ReferencePick } from '../../workbench';
import { useWorkbench } from '../../workbench';
import { AnswerPick } from './AnswerPick';
import { FromTarget } from './FromTarget';
import { ListEditor, newEntry, newPart } from './ListEditor';
import type { TemplateHandle } from './TemplateEditor';
import { WhichItem } from './WhichItem';
import { picked, TypedInput } from './TypedInput';
import { readable, segmentsOf, strangersIn, writtenOf } from './written';
import type { EditLine } from '../line/editLine';

const TemplateEditor = lazy(() => import('./TemplateEditor'));

type From = Source['from'];
const ways: Record<From, string> = {
  field: 'Answer',
  first: 'First non-empty answer',
  text: 'Text template',
  list: 'List',
  constant: 'Fixed value',
  rest: 'All unused answers',
};

const { list: _list, ...waysToOne } = ways;

/** What may be a list: whatever is not said to be one value. */
const takesLists = (field: TargetField | null): boolean =>
  field === null || field.type === 'json' || field.type === 'choices';

/** What a line comes from when a way is chosen, with as much kept of what it came from as fits. */
const starts: Record<From, (before: Source | null) => Source | null> = {
  field: before => {
    const [field] = fieldsOf(before);
    return field === undefined ? null : { from: 'field', field };
  },
  first: before => ({ from: 'first', fields: fieldsOf(before) }),
  text: before => ({
    from: 'text',
    segments: before?.from === 'text' ? before.segments : fieldsOf(before).map(field => ({ field })),
  }),
  list: before => ({
    from: 'list',
    entries: [
      newEntry(
        fieldsOf(before).length > 0 ? fieldsOf(before).map(field => newPart('', { from: 'field', field })) : undefined,
      ),
    ],
  }),
  constant: before => ({ from: 'constant', value: before?.from === 'constant' ? before.value : '' }),
  rest: () => ({ from: 'rest' }),
};

/** Where a line's value comes from: answers, a text template, a fixed value, or what is left. */
export function SourceEditor({ line, field, edit }: { line: Line; field: TargetField | null; edit: EditLine }) {
  const { target } = useWorkbench('call');
  const [from, setFrom] = useState<From>(line.source?.from ?? 'field');
  const shown = line.source?.from ?? from;
  const choose = (next: From) => {
    setFrom(next);
    edit(each => ({ ...each, source: starts[next](each.source) }));
  };
  return (
    <div className="mt-2 space-y-2">
      <Radios
        legend="Source"
        name={`from-${line.id}`}
        value={shown}
        onChange={choose}
        options={takesLists(field) || shown === 'list' ? ways : waysToOne}
      />
      {shown === 'field' && (
        <AnswerPick
          value={line.source?.from === 'field' ? line.source.field : null}
          onPick={field => edit(each => ({ ...each, source: { from: 'field', field } }))}
        />
      )}
      {shown === 'field' && line.source?.from === 'field' && (
        <WhichItem
          value={line.source.field}
          onPick={field => edit(each => ({ ...each, source: { from: 'field', field } }))}
        />
      )}
      {shown === 'first' && line.source?.from === 'first' && (
        <FirstFilled
          fields={line.source.fields}
          onChange={fields => edit(each => ({ ...each, source: { from: 'first', fields } }))}
        />
      )}
      {shown === 'rest' && (
        <div className="space-y-2">
          <p className="font-serif text-ink-2">
            Answers that no other line of this call uses, each with its question. Files are listed by{' '}
            {line.source?.from === 'rest' && line.source.as === 'pairs' ? 'link' : 'name'}.
          </p>
          {takesLists(field) && (
            <Choice
              label="Written as"
              className="sm:w-1/2"
              value={line.source?.from === 'rest' && line.source.as ? line.source.as : ''}
              options={{ '': 'text, one per line', pairs: 'a list of label and value' }}
              onChange={as => edit(each => ({ ...each, source: { from: 'rest', ...(as && { as }) } }))}
            />
          )}
        </div>
      )}
      {shown === 'text' && line.source?.from === 'text' && (
        <TextTemplate source={line.source} onChange={source => edit(each => ({ ...each, source }))} />
      )}
      {shown === 'list' && line.source?.from === 'list' && (
        <ListEditor source={line.source} onChange={source => edit(each => ({ ...each, source }))} />
      )}
      {shown === 'constant' && line.source?.from === 'constant' && (
        <TypedInput
          label="Value"
          field={field}
          value={constantOf(line.source)}
          onChange={value => edit(each => ({ ...each, source: { from: 'constant', value } }))}
        />
      )}
      {shown === 'constant' && (
        <FromTarget
          target={target}
          value={constantOf(line.source)}
          onPick={text =>
            edit(each => ({
              ...each,
              source: { from: 'constant', value: picked(field, constantOf(each.source), text) },
            }))
          }
        />
      )}
    </div>
  );
}

const constantOf = (source: Source | null): Json => (source?.from === 'constant' ? source.value : '');

/** Several answers in the order in which they are looked at. */
function FirstFilled({ fields, onChange }: { fields: string[]; onChange: (fields: string[]) => void }) {
  const { references, labelOf } = useWorkbench('offers');
  return (
    <div>
      <ol className="list-inside list-decimal marker:font-mono marker:text-fine marker:text-ink-3">
        {fields.map((key, index) => (
          <li key={key} className="py-0.5">
            <span className="text-lapis">{labelOf(key)}</span>{' '}
            {index > 0 && (
              <Act
                onClick={() =>
                  onChange([...fields.slice(0, index - 1), key, fields[index - 1]!, ...fields.slice(index + 1)])
                }
                aria-label={`Move ${labelOf(key)} up`}
              >
                up
              </Act>
            )}{' '}
            <Act onClick={() => onChange(fields.filter(each => each !== key))} aria-label={`Remove ${labelOf(key)}`}>
              remove
            </Act>
          </li>
        ))}
      </ol>
      <ReferencePick
        label="Add an answer"
        isBare
        boxClass="w-64!"
        references={references.filter(each => !fields.includes(each.key))}
        value=""
        placeholder="add an answer…"
        onPick={key => key && onChange([...fields, key])}
      />
    </div>
  );
}

/** A text template: answers are chosen and inserted at the cursor. */
function TextTemplate({
  source,
  onChange,
}: {
  source: Extract<Source, { from: 'text' }>;
  onChange: (source: Source) => void;
}) {
  const { references } = useWorkbench('offers');
  const editor = useRef<TemplateHandle>(null);
  const id = useId();
  const keys = useMemo(() => new Set(references.map(each => each.key)), [references]);
  const outside = writtenOf(source.segments);
  const [text, setText] = useState(outside);
  const [version, setVersion] = useState(0);
  // Undoing changes the text from outside: the editor starts anew then.
  if (text !== outside && writtenOf(segmentsOf(text)) !== outside) {
    setText(outside);
    setVersion(version + 1);
  }
  const segments = flatSegments(source.segments);
  const gone = segments.flatMap(each => ('field' in each && !keys.has(each.field) ? [each.field] : []));
  const [stranger] = strangersIn(segments, references);
  const complaint =
    gone[0] !== undefined
      ? `! The form has no question “${gone[0]}”.`
      : stranger?.isSeveral
        ? `! Several questions are named “${stranger.wording}”: choose one.`
        : stranger
          ? `! The form has no question “${stranger.wording}”. It is sent as typed.`
          : null;
  const change = (next: string) => {
    setText(next);
    onChange({ ...source, segments: segmentsOf(next) });
  };
  return (
    <div className="space-y-2">
      <div>
        <span aria-hidden className="block text-small text-ink-2">
          Text
        </span>
        <Suspense fallback={<p className="write text-ink-3">{readable(text, references) || '…'}</p>}>
          <TemplateEditor
            key={version}
            ref={editor}
            label="Text"
            describedBy={`${id}-said`}
            text={text}
            references={references}
            onChange={change}
          />
        </Suspense>
        <div id={`${id}-said`} className={`mt-0.5 text-small ${complaint ? 'text-crimson' : 'text-ink-3'}`}>
          {complaint ?? 'Type { to insert an answer. Text in {?…?} is left out if an answer in it is blank.'}
        </div>
      </div>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <ReferencePick
          label="Insert an answer"
          isBare
          boxClass="w-64!"
          references={references}
          value=""
          placeholder="insert an answer…"
          onPick={key => key && editor.current?.insert(key)}
        />
        <Tick
          label="HTML: escape answers, keep line breaks"
          checked={source.html ?? false}
          onChange={html => onChange({ ...source, html })}
        />
      </div>
    </div>
  );
}
