import type { DocumentView, ReadingKind, TargetInput } from '@grammata/contract';
import { wordsFor } from '../api';
import { Act, FileAct } from '../ui';
import { LinesField } from '../ui/form';

const words: Partial<Record<ReadingKind, { label: string; hint: string; placeholder: string }>> = {
  openapi: { label: 'OpenAPI document', hint: 'JSON or YAML.', placeholder: 'openapi: 3.1.0' },
  graphql: {
    label: 'Schema',
    hint: 'Schema text, or the response to an introspection query.',
    placeholder: 'type Mutation { addContact(input: ContactInput!): Contact! }',
  },
  example: {
    label: 'Examples',
    hint: 'Curl commands, a HAR file, or a record in JSON. Optional. Nothing is sent.',
    placeholder: 'curl https://… -H \'Content-Type: application/json\' -d \'{"name": "…"}\'',
  },
  files: {
    label: 'Files and columns',
    hint: 'One per line. Names end in .csv or .ndjson; a file is created with its first row. End with … to allow more columns.',
    placeholder: 'visits.csv: school, pupils, day',
  },
};

/** What a target is made of where that is given rather than asked for: typed, pasted, or out of a file. */
export function DocumentField({
  kind,
  onText,
  onAddress,
  look,
}: {
  kind: ReadingKind;
  onText: (text: string) => void;
  /** Goes back to reading it from an address. */
  onAddress: (() => void) | null;
  /** What the text says, as it was looked at. */
  look: { data?: DocumentView; error: unknown; isPending: boolean };
}) {
  return (
    <div
      className="sm:col-span-2"
      onBlur={event => event.target instanceof HTMLTextAreaElement && onText(event.target.value)}
    >
      <LinesField<TargetInput> name="document" {...(words[kind] ?? words.openapi!)} rows={kind === 'files' ? 3 : 6} />
      <p role="status" className={kind === 'files' ? 'hidden' : 'mt-1 min-h-5 font-serif'}>
        {look.isPending ? 'Reading it…' : told(look)}
      </p>
      <p className="mt-1 flex gap-5 text-small">
        {kind !== 'files' && (
          <FileAct
            accept=".json,.yaml,.yml,.har,.txt,.graphql,.graphqls,.gql"
            onFile={file => void file.text().then(onText)}
          >
            Open file…
          </FileAct>
        )}
        {onAddress && (
          <Act onClick={onAddress}>{kind === 'graphql' ? 'Read it from the target' : 'Read it from a URL'}</Act>
        )}
      </p>
    </div>
  );
}

/** What was found in a text, in a sentence. */
function told({ data, error }: { data?: DocumentView; error: unknown }): string {
  if (error) return wordsFor(error);
  if (!data) return '';
  if (data.fault !== null) return data.fault;
  const key = data.secret === null ? '' : ' Its secret was moved to the credentials and removed from the text.';
  return `It ${data.says.replace(/\.$/, '')}.${key}`;
}
