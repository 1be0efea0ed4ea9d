import type { CompiledLine } from '@grammata/core/request';
import type { BlankPolicy, Line, ProblemPolicy, Writing } from '@grammata/core/route';
import { exampleFor, optionName, type TargetField } from '@grammata/core/target';
import { asText } from '@grammata/core/submission';
import { Act, Choice, Tick } from '../../../ui';
import { useWorkbench } from '../../workbench';
import { kindOf } from '../source/kindOf';
import { SourceEditor } from '../source/SourceEditor';
import { Steps } from '../steps/Steps';
import { TypedInput } from '../source/TypedInput';
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

/** A required field is not left out: who chose that, or never chose, has the submission held; nobody else is offered it. */
const requiredWords = (chosen: BlankPolicy | ProblemPolicy): string | undefined =>
  chosen === 'leaveOut' ? 'hold it: it is required' : undefined;

/** An open line: where its value comes from, each step of its cleaning, and what happens when there is none. */
export function LineEditor({
  compiled,
  edit,
  onClose,
  onRemove,
}: {
  compiled: CompiledLine;
  edit: EditLine;
  onClose: () => void;
  /** Null for a line whose field the target has. */
  onRemove: (() => void) | null;
}) {
  const { references, call } = useWorkbench('call', 'offers');
  const { line, field } = compiled;
  const kind = kindOf(line.source, references);
  const usesFallback = line.whenBlank === 'fallback' || line.whenProblem === 'fallback';
  return (
    <div className="max-w-[46rem] px-3.5 pb-3.5 md:ml-[44px]" onKeyDown={event => event.key === 'Escape' && onClose()}>
      {field && <p className="text-small text-ink-3">{aboutField(field)}</p>}
      <SourceEditor key={line.id} line={line} field={field} edit={edit} />
      {line.source && <Steps compiled={compiled} kind={kind} edit={edit} />}
      {line.source && kind === 'files' && <Copies line={line} edit={edit} />}
      {line.source && (
        <div className="mt-3 grid gap-x-6 gap-y-2 sm:grid-cols-3">
          {call.find?.update && !field?.in && (
            <Choice
              label="When a record is there"
              value={line.writes ?? 'always'}
              options={
                field?.type === 'choices' || field?.type === 'json' ? writingWords : { ...writingWords, add: undefined }
              }
              onChange={writes => edit(each => ({ ...each, writes }))}
            />
          )}
          <Choice
            label="When it is blank"
            value={line.whenBlank}
            options={field?.required ? { ...blankWords, leaveOut: requiredWords(line.whenBlank) } : blankWords}
            onChange={whenBlank => edit(each => ({ ...each, whenBlank }))}
          />
          <Choice
            label="When it can’t be used"
            value={line.whenProblem}
            options={field?.required ? { ...problemWords, leaveOut: requiredWords(line.whenProblem) } : problemWords}
            onChange={whenProblem => edit(each => ({ ...each, whenProblem }))}
          />
          {usesFallback && (
            <TypedInput
              label="Instead"
              field={field}
              value={line.fallback}
              onChange={fallback => edit(each => ({ ...each, fallback }))}
            />
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
    <Tick
      className="mt-3"
      label="Links lead to copies kept here, for those who may not open the builder’s own"
      hint="Each is signed, and ends after 30 days."
      checked={line.copies ?? false}
      onChange={copies => edit(each => ({ ...each, copies }))}
    />
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
  choices: 'a list',
  attachments: 'files by link',
  file: 'a file',
  base64: 'a file, in base64',
  json: 'any JSON',
};

const itemWords: Record<NonNullable<TargetField['items']>, string> = {
  number: 'a list of numbers',
  integer: 'a list of whole numbers',
  boolean: 'a list of true and false',
};

function aboutField(field: TargetField): string {
  const limits = [
    field.items && field.type === 'choices'
      ? itemWords[field.items]
      : field.options && field.type === 'choices'
        ? 'a list of its options'
        : typeWords[field.type],
    field.maxLength !== null && `up to ${field.maxLength} characters`,
    field.required && 'required',
  ]
    .filter(Boolean)
    .join(', ');
  const sample = asText(exampleFor(field));
  const example = field.options
    ? field.options.map(each => optionName(field, each)).join(' · ')
    : sample !== '' && `such as ${sample}`;
  return [`${field.label || field.key}: takes ${limits}`, field.type === 'text' ? field.description : example]
    .filter(Boolean)
    .join('; ');
}
