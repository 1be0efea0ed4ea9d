import { parseTemplate, templateText, type Line, type Segment, type Source } from '@grammata/core/request';
import type { Json } from '@grammata/core/submission';
import type { TargetField } from '@grammata/core/target';
import { useRef, useState } from 'react';
import { Labelled } from '../../ui';
import type { Workbench } from '../workbench';
import { TypedInput } from './TypedInput';
import type { EditLine } from './editLine';

type From = Source['from'];
const ways: Record<From, string> = { field: 'an answer', text: 'text with answers in it', constant: 'always the same' };

/** Where a line's value comes from: an answer, a text with answers in it, or always the same. */
export function SourceEditor({
  workbench,
  line,
  field,
  edit,
}: {
  workbench: Workbench;
  line: Line;
  field: TargetField | null;
  edit: EditLine;
}) {
  const [from, setFrom] = useState<From>(line.source?.from ?? 'field');
  const shown = line.source?.from ?? from;
  const choose = (next: From) => {
    setFrom(next);
    if (next === 'field') edit(each => ({ ...each, source: null }));
    else
      edit(each => ({
        ...each,
        source: next === 'text' ? { from: 'text', segments: segmentsOf(each.source) } : { from: 'constant', value: '' },
      }));
  };
  return (
    <div className="mt-2 space-y-2">
      <fieldset className="flex gap-4">
        <legend className="sr-only">Comes from</legend>
        {(Object.keys(ways) as From[]).map(way => (
          <label key={way} className="flex items-baseline gap-1.5">
            <input
              type="radio"
              className="accent-oxide"
              name={`from-${line.id}`}
              checked={shown === way}
              onChange={() => choose(way)}
            />
            {ways[way]}
          </label>
        ))}
      </fieldset>
      {shown === 'field' && (
        <AnswerPick
          workbench={workbench}
          value={line.source?.from === 'field' ? line.source.field : ''}
          onPick={key => edit(each => ({ ...each, source: key ? { from: 'field', field: key } : null }))}
        />
      )}
      {shown === 'text' && line.source?.from === 'text' && (
        <TextTemplate
          workbench={workbench}
          segments={line.source.segments}
          onChange={segments => edit(each => ({ ...each, source: { from: 'text', segments } }))}
        />
      )}
      {shown === 'constant' && line.source?.from === 'constant' && (
        <Labelled label="The value">
          {ids => (
            <TypedInput
              ids={ids}
              field={field}
              value={constantOf(line.source)}
              onChange={value => edit(each => ({ ...each, source: { from: 'constant', value } }))}
            />
          )}
        </Labelled>
      )}
    </div>
  );
}

const constantOf = (source: Source | null): Json => (source?.from === 'constant' ? source.value : '');
const segmentsOf = (source: Source | null): Segment[] =>
  source?.from === 'field' ? [{ field: source.field }] : source?.from === 'text' ? source.segments : [];

function AnswerPick({
  workbench: { route },
  value,
  onPick,
}: {
  workbench: Workbench;
  value: string;
  onPick: (key: string) => void;
}) {
  const fields = route.form.schema.fields;
  const isKnown = value === '' || fields.some(each => each.key === value);
  return (
    <Labelled
      label="Which answer"
      hint="Or pick it in the sample on the left."
      error={isKnown ? null : `The form was never seen with “${value}”.`}
    >
      {ids => (
        <select {...ids} className="write text-lapis" value={value} onChange={event => onPick(event.target.value)}>
          <option value="">pick a question…</option>
          {!isKnown && <option value={value}>{value}</option>}
          {fields.map(each => (
            <option key={each.key} value={each.key}>
              {each.label}
              {each.examples[0] ? ` — ${each.examples[0].slice(0, 40)}` : ''}
            </option>
          ))}
        </select>
      )}
    </Labelled>
  );
}

/** A text in which answers stand as `{question}`; they are picked, and put in where the cursor is. */
function TextTemplate({
  workbench: { route, labelOf },
  segments,
  onChange,
}: {
  workbench: Workbench;
  segments: Segment[];
  onChange: (segments: Segment[]) => void;
}) {
  const fields = route.form.schema.fields;
  const area = useRef<HTMLTextAreaElement>(null);
  const toLabels = (all: Segment[]): Segment[] =>
    all.map(each => ('field' in each ? { field: labelOf(each.field) } : each));
  const keyOf = (label: string) =>
    fields.find(each => each.label === label)?.key ?? fields.find(each => each.key === label)?.key;
  const [text, setText] = useState(() => templateText(toLabels(segments)));
  const unknown = parseTemplate(text).flatMap(each =>
    'field' in each && keyOf(each.field) === undefined ? [each.field] : [],
  );
  const change = (next: string) => {
    setText(next);
    onChange(parseTemplate(next).map(each => ('text' in each ? each : { field: keyOf(each.field) ?? each.field })));
  };
  const insert = (label: string) => {
    const { selectionStart = text.length, selectionEnd = text.length } = area.current ?? {};
    change(`${text.slice(0, selectionStart)}{${label}}${text.slice(selectionEnd)}`);
    area.current?.focus();
  };
  return (
    <div className="space-y-2">
      <Labelled
        label="The text"
        hint="Answers stand in braces."
        error={unknown[0] ? `The form has no question “${unknown[0]}”.` : null}
      >
        {ids => (
          <textarea
            {...ids}
            ref={area}
            rows={2}
            className="write font-serif text-[0.875rem]"
            value={text}
            onChange={event => change(event.target.value)}
          />
        )}
      </Labelled>
      <select
        aria-label="Put an answer in"
        className="write w-64! text-lapis"
        value=""
        onChange={event => event.target.value && insert(event.target.value)}
      >
        <option value="">put an answer in…</option>
        {fields.map(each => (
          <option key={each.key}>{each.label}</option>
        ))}
      </select>
    </div>
  );
}
