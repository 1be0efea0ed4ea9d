import type { CompiledLine } from '@grammata/core/request';
import type { BlankPolicy, Line, ProblemPolicy, Writing } from '@grammata/core/route';
import { exampleFor, type TargetField } from '@grammata/core/target';
import { asText } from '@grammata/core/submission';
import { Act, Labelled } from '../../ui';
import type { Workbench } from '../workbench';
import { kindOf } from './kindOf';
import { SourceEditor } from './SourceEditor';
import { Steps } from './Steps';
import { TypedInput } from './TypedInput';
import type { EditLine } from './editLine';

const blankWords: Record<BlankPolicy, string> = {
  leaveOut: 'leave the field out',
  null: 'send null',
  empty: 'send an empty text',
  fallback: 'send this instead',
  stop: 'hold the submission',
};
const problemWords: Record<ProblemPolicy, string> = {
  stop: 'hold the submission',
  leaveOut: 'leave the field out',
  fallback: 'send this instead',
};

/** An open line: where its value comes from, each step of its cleaning, and what happens when there is none. */
export function LineEditor({
  workbench,
  compiled,
  edit,
  onClose,
  onRemove,
}: {
  workbench: Workbench;
  compiled: CompiledLine;
  edit: EditLine;
  onClose: () => void;
  /** Null for a line whose field the target has. */
  onRemove: (() => void) | null;
}) {
  const { line, field } = compiled;
  const kind = kindOf(line.source, workbench.references);
  const usesFallback = line.whenBlank === 'fallback' || line.whenProblem === 'fallback';
  return (
    <div className="max-w-[46rem] px-3.5 pb-3.5 md:ml-[44px]" onKeyDown={event => event.key === 'Escape' && onClose()}>
      {field && <p className="text-small text-ink-3">{aboutField(field)}</p>}
      <SourceEditor key={line.id} workbench={workbench} line={line} field={field} edit={edit} />
      {line.source && <Steps workbench={workbench} compiled={compiled} kind={kind} edit={edit} />}
      {line.source && kind === 'files' && <Copies line={line} edit={edit} />}
      {line.source && (
        <div className="mt-3 grid gap-x-6 gap-y-2 sm:grid-cols-3">
          {workbench.call.find?.update && !field?.in && (
            <Labelled label="When a record is there">
              {ids => (
                <select
                  {...ids}
                  className="write"
                  value={line.writes ?? 'always'}
                  onChange={event => edit(each => ({ ...each, writes: event.target.value as Writing }))}
                >
                  {(Object.keys(writingWords) as Writing[])
                    .filter(each => each !== 'add' || field?.type === 'choices' || field?.type === 'json')
                    .map(each => (
                      <option key={each} value={each}>
                        {writingWords[each]}
                      </option>
                    ))}
                </select>
              )}
            </Labelled>
          )}
          <Labelled label="When it is blank">
            {ids => (
              <select
                {...ids}
                className="write"
                value={line.whenBlank}
                onChange={event => edit(each => ({ ...each, whenBlank: event.target.value as BlankPolicy }))}
              >
                {Object.entries(blankWords).map(([key, words]) => (
                  <option key={key} value={key}>
                    {words}
                  </option>
                ))}
              </select>
            )}
          </Labelled>
          <Labelled label="When it is in trouble">
            {ids => (
              <select
                {...ids}
                className="write"
                value={line.whenProblem}
                onChange={event => edit(each => ({ ...each, whenProblem: event.target.value as ProblemPolicy }))}
              >
                {Object.entries(problemWords).map(([key, words]) => (
                  <option key={key} value={key}>
                    {words}
                  </option>
                ))}
              </select>
            )}
          </Labelled>
          {usesFallback && (
            <Labelled label="Instead">
              {ids => (
                <TypedInput
                  ids={ids}
                  field={field}
                  value={line.fallback}
                  onChange={fallback => edit(each => ({ ...each, fallback }))}
                />
              )}
            </Labelled>
          )}
        </div>
      )}
      <p className="mt-3 flex gap-4">
        <Act onClick={onClose}>Close</Act>
        {line.source && (
          <Act onClick={() => edit(each => ({ ...each, source: null, cleaning: [] }))}>Empty this line</Act>
        )}
        {onRemove && <Act onClick={onRemove}>Remove this line</Act>}
      </p>
    </div>
  );
}

const writingWords: Record<Writing, string> = {
  always: 'write over what it has',
  whereBlank: 'fill it where it is blank',
  onCreate: 'leave it as it is',
  add: 'add to its list',
};

/** Whether links lead to the builder's files or to copies that are kept here. */
function Copies({ line, edit }: { line: Line; edit: EditLine }) {
  return (
    <label className="mt-3 flex items-baseline gap-2">
      <input
        type="checkbox"
        className="accent-oxide"
        checked={line.copies ?? false}
        onChange={event => edit(each => ({ ...each, copies: event.target.checked }))}
      />
      <span>
        Links lead to copies kept here, for those who may not open the builder’s own
        <span className="block text-small text-ink-3">Each is signed, and ends after 30 days.</span>
      </span>
    </label>
  );
}

const typeWords: Record<TargetField['type'], string> = {
  text: 'text',
  number: 'a number',
  integer: 'a whole number',
  boolean: 'true or false',
  date: 'a date',
  datetime: 'a time',
  choice: 'one of its options',
  choices: 'a list of its options',
  attachments: 'files by link',
  file: 'a file',
  base64: 'a file, in base64',
  json: 'any JSON',
};

function aboutField(field: TargetField): string {
  const limits = [
    typeWords[field.type],
    field.maxLength !== null && `up to ${field.maxLength} characters`,
    field.required && 'required',
  ]
    .filter(Boolean)
    .join(', ');
  const example = field.options ? field.options.join(' · ') : `such as ${asText(exampleFor(field))}`;
  return [`${field.label}: takes ${limits}`, field.type === 'text' ? field.description : example]
    .filter(Boolean)
    .join('; ');
}
