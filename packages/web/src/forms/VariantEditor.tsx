import { asText, parseJson, type Field, type Json, type Question, type Submission } from '@grammata/core/submission';
import { useState, type FormEvent } from 'react';
import { wordsFor } from '../api';
import { Act, Fault, LinesBox, Press, TextBox } from '../ui';
import { useStoreVariant } from './queries';

/** A value as a person edits it: a list line by line, anything with a shape as JSON. */
const asWritten = (value: Json): string =>
  Array.isArray(value) && value.every(each => typeof each !== 'object')
    ? value.map(asText).join('\n')
    : typeof value === 'object' && value !== null
      ? JSON.stringify(value, null, 1)
      : asText(value);

/** How people write what is true and what is not; anything else stays the text it is. */
const truths = new Map([
  ...['true', 'yes', '1'].map(each => [each, true] as const),
  ...['false', 'no', '0'].map(each => [each, false] as const),
]);

/** The value that was written, of the same nature as the one before; undefined for none, null for JSON that is none. */
export function fromWritten(
  text: string,
  { kind, value: before }: Pick<Field, 'kind' | 'value'>,
): Json | undefined | null {
  if (text.trim() === '') return undefined;
  if (kind === 'choices') return text.split('\n').filter(line => line.trim() !== '');
  if (kind === 'table' || kind === 'json' || (typeof before === 'object' && before !== null))
    return parseJson(text) ?? null;
  if (typeof before === 'number' && Number.isFinite(Number(text))) return Number(text);
  if (typeof before === 'boolean') return truths.get(text.trim().toLowerCase()) ?? text;
  return text;
}

/** Edits a submission into a variant of it: answers changed, taken out or added, files taken out. */
export function VariantEditor({
  formId,
  id,
  name: firstName,
  submission,
  kindOf,
  onDone,
}: {
  formId: string;
  /** Set where a variant is edited that exists. */
  id?: string;
  name: string;
  submission: Submission;
  /** The kind a question's answers usually have. */
  kindOf: (key: string) => Field['kind'];
  onDone: () => void;
}) {
  const [name, setName] = useState(firstName);
  const [isUnnamed, setUnnamed] = useState(false);
  const [texts, setTexts] = useState<Record<string, string>>({});
  const [files, setFiles] = useState(submission.files);
  const [fault, setFault] = useState<{ key: string; message: string } | null>(null);
  const store = useStoreVariant(formId);
  const questions: Question[] = submission.questions.filter(({ key }) => !submission.files.some(f => f.field === key));
  const fieldOf = ({ key, label, pointer }: Question): Field =>
    submission.fields.find(each => each.key === key) ?? { key, label, kind: kindOf(key), value: '', pointer };

  const submit = (event: FormEvent) => {
    event.preventDefault();
    setUnnamed(name.trim() === '');
    if (name.trim() === '') return;
    const fields: Field[] = [];
    for (const question of questions) {
      const field = fieldOf(question);
      const text = texts[field.key];
      const value = text === undefined ? (field.value === '' ? undefined : field.value) : fromWritten(text, field);
      if (value === null) return setFault({ key: field.key, message: 'This is not JSON.' });
      if (value !== undefined) fields.push({ ...field, value });
    }
    setFault(null);
    store.mutate({ id, name, submission: { ...submission, fields, files } }, { onSuccess: onDone });
  };
  return (
    <form onSubmit={submit} aria-label="Variant" className="my-2 border-y border-ink bg-raised px-4 py-3">
      <TextBox
        label="Name of the variant"
        look="lead"
        className="max-w-md"
        error={isUnnamed && name.trim() === '' ? 'Enter a name.' : null}
        value={name}
        maxLength={120}
        onChange={setName}
        autoFocus
      />
      <div className="mt-3 grid gap-x-8 gap-y-3 md:grid-cols-2">
        {questions.map(question => {
          const field = fieldOf(question);
          const text = texts[field.key] ?? asWritten(field.value);
          const rows = Math.min(5, text.split('\n').length);
          return (
            <LinesBox
              key={field.key}
              label={field.label}
              hint={field.kind === 'choices' ? 'one per line' : undefined}
              error={fault?.key === field.key ? fault.message : null}
              rows={field.kind === 'choices' ? rows + 1 : rows}
              value={text}
              placeholder="not answered"
              onChange={next => setTexts({ ...texts, [field.key]: next })}
            />
          );
        })}
      </div>
      {submission.files.length > 0 && (
        <ul aria-label="Files" className="mt-3">
          {files.map((file, index) => (
            <li key={index} className="flex items-baseline gap-3">
              <span className="font-mono text-small">{file.name}</span>
              <Act onClick={() => setFiles(files.filter((_, at) => at !== index))} aria-label={`Remove ${file.name}`}>
                Remove
              </Act>
              <Act onClick={() => setFiles([...files, file])} aria-label={`Duplicate ${file.name}`}>
                Duplicate
              </Act>
            </li>
          ))}
          {files.length === 0 && <li className="text-ink-3">no files</li>}
        </ul>
      )}
      {store.error && <Fault>{wordsFor(store.error)}</Fault>}
      <div className="mt-3 flex gap-4">
        <Press type="submit" disabled={store.isPending}>
          Save variant
        </Press>
        <Press quiet onClick={onDone}>
          Cancel
        </Press>
      </div>
    </form>
  );
}
