import { untakenLines } from '@grammata/core/perform';
import type { CompiledLine } from '@grammata/core/request';
import type { BlankPolicy, Line, ProblemPolicy, Writing } from '@grammata/core/route';
import { exampleFor, optionName, type TargetField } from '@grammata/core/target';
import { asText } from '@grammata/core/submission';
import { Act, Choice, Tick, onEscape } from '../../../ui';
import { useWorkbench } from '../../workbench';
import { kindOf } from '../source/kindOf';
import { SourceEditor } from '../source/SourceEditor';
import { Steps } from '../steps/Steps';
import { TypedInput } from '../source/TypedInput';
import type { EditLine } from './editLine';

const blankWords: Record<BlankPolicy, string> = {
  leaveOut: 'leave the field out',
  null: 'send null',
  empty: 'send empty text',
  fallback: 'send a fixed value',
  stop: 'hold the submission',
};
const problemWords: Record<ProblemPolicy, string> = {
  stop: 'hold the submission',
  leaveOut: 'leave the field out',
  fallback: 'send a fixed value',
};

/** A required field is not left out: who chose that, or never chose, has the submission held; nobody else is offered it. */
const requiredWords = (chosen: BlankPolicy | ProblemPolicy): string | undefined =>
  chosen === 'leaveOut' ? 'hold the submission (required)' : undefined;

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
  const { references, call, target, operation } = useWorkbench('call', 'offers');
  const { line, field } = compiled;
  const update = target?.operations.find(each => each.id === call.find?.update?.operationId);
  const isUntaken =
    call.find &&
    operation &&
    update &&
    untakenLines(call, call.find, operation, update).some(each => each.id === line.id);
  const kind = kindOf(line.source, references);
  const usesFallback = line.whenBlank === 'fallback' || line.whenProblem === 'fallback';
  return (
    <div className="max-w-[46rem] px-3.5 pb-3.5 md:ml-[44px]" onKeyDown={onEscape(onClose)}>
      {field && <p className="text-small text-ink-3">{aboutField(field)}</p>}
      <SourceEditor key={line.id} line={line} field={field} edit={edit} />
      {line.source && <Steps compiled={compiled} kind={kind} edit={edit} />}
      {line.source && kind === 'files' && <Copies line={line} edit={edit} />}
      {line.source && (
        <div className="mt-3 grid gap-x-6 gap-y-2 sm:grid-cols-3">
          {call.find?.update && !field?.in && (
            <Choice
              label="For an existing record"
              value={line.writes ?? 'always'}
              hint={isUntaken ? `Not written: “${update.label}” has no such field.` : undefined}
              options={
                field?.type === 'choices' || field?.type === 'json' ? writingWords : { ...writingWords, add: undefined }
              }
              onChange={writes => edit(each => ({ ...each, writes }))}
            />
          )}
          <Choice
            label="If blank"
            value={line.whenBlank}
            options={field?.required ? { ...blankWords, leaveOut: requiredWords(line.whenBlank) } : blankWords}
            onChange={whenBlank => edit(each => ({ ...each, whenBlank }))}
          />
          <Choice
            label="If invalid"
            value={line.whenProblem}
            options={field?.required ? { ...problemWords, leaveOut: requiredWords(line.whenProblem) } : problemWords}
            onChange={whenProblem => edit(each => ({ ...each, whenProblem }))}
          />
          {usesFallback && (
            <TypedInput
              label="Fixed value"
              field={field}
              value={line.fallback}
              onChange={fallback => edit(each => ({ ...each, fallback }))}
            />
          )}
        </div>
      )}
      <p className="mt-3 flex gap-4">
        <Act className="quiet" onClick={onClose}>
          Close
        </Act>
        {line.source && (
          <Act
            className="quiet"
            onClick={() => edit(each => ({ ...each, source: null, cleaning: [], declined: true }))}
          >
            Clear line
          </Act>
        )}
        {onRemove && (
          <Act className="removes ml-auto" onClick={onRemove}>
            Remove line
          </Act>
        )}
      </p>
    </div>
  );
}

const writingWords: Record<Writing, string> = {
  always: 'overwrite',
  whereBlank: 'fill only if blank',
  onCreate: 'do not change',
  add: 'add to the list',
};

/** Whether links lead to the builder's files or to copies that are kept here. */
function Copies({ line, edit }: { line: Line; edit: EditLine }) {
  return (
    <Tick
      className="mt-3"
      label="Link to copies kept by Grammata"
      hint="For recipients without access to the form builder. Links are signed and expire after 30 days."
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
  return [`${field.label || field.key}: ${limits}`, field.type === 'text' ? field.description : example]
    .filter(Boolean)
    .join('; ');
}
