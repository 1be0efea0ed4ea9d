import type { ReadingKind, TargetInput } from '@grammata/contract';
import { Act, FileAct } from '../ui';
import { LinesField } from '../ui/form';

const words: Partial<Record<ReadingKind, { label: string; hint: string; placeholder: string }>> = {
  openapi: { label: 'The OpenAPI document', hint: 'In JSON or YAML.', placeholder: 'openapi: 3.1.0' },
  example: {
    label: 'The example',
    hint: 'A curl line, a HAR file, or a record in JSON as the target takes it. Nothing is sent.',
    placeholder: 'curl https://… -H \'Content-Type: application/json\' -d \'{"name": "…"}\'',
  },
  files: {
    label: 'The files and their columns',
    hint: 'One a line. Names end in .csv or .ndjson; a file is made with its first row. … at the end lets it get more columns.',
    placeholder: 'visits.csv: school, pupils, day',
  },
};

/** What a target is made of where that is given rather than asked for: typed, pasted, or out of a file. */
export function DocumentField({
  kind,
  onText,
  onAddress,
}: {
  kind: ReadingKind;
  onText: (text: string) => void;
  /** Goes back to reading it from an address. */
  onAddress: (() => void) | null;
}) {
  return (
    <div
      className="sm:col-span-2"
      onBlur={event => event.target instanceof HTMLTextAreaElement && onText(event.target.value)}
    >
      <LinesField<TargetInput> name="document" {...(words[kind] ?? words.openapi!)} rows={kind === 'files' ? 3 : 6} />
      <p className="mt-1 flex gap-5 text-small">
        {kind !== 'files' && (
          <FileAct accept=".json,.yaml,.yml,.har,.txt" onFile={file => void file.text().then(onText)}>
            Take it from a file
          </FileAct>
        )}
        {onAddress && <Act onClick={onAddress}>Read it from an address</Act>}
      </p>
    </div>
  );
}
