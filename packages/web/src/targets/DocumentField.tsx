import type { ReadingKind } from '@grammata/contract';
import type { UseFormRegisterReturn } from 'react-hook-form';
import { Act, Labelled } from '../ui';

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
  register,
  onText,
  error,
  onAddress,
}: {
  kind: ReadingKind;
  register: UseFormRegisterReturn;
  onText: (text: string) => void;
  error: string | null;
  /** Goes back to reading it from an address. */
  onAddress: (() => void) | null;
}) {
  const { label, hint, placeholder } = words[kind] ?? words.openapi!;
  return (
    <div className="sm:col-span-2">
      <Labelled label={label} hint={hint} error={error}>
        {ids => (
          <textarea
            {...ids}
            {...register}
            onBlur={event => {
              void register.onBlur(event);
              onText(event.target.value);
            }}
            rows={kind === 'files' ? 3 : 6}
            spellCheck={false}
            className="write font-mono text-small"
            placeholder={placeholder}
          />
        )}
      </Labelled>
      <p className="mt-1 flex gap-5 text-small">
        {kind !== 'files' && (
          <label className="act cursor-pointer focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-oxide">
            Take it from a file
            <input
              type="file"
              className="sr-only"
              accept=".json,.yaml,.yml,.har,.txt"
              onChange={event => void event.target.files?.[0]?.text().then(onText)}
            />
          </label>
        )}
        {onAddress && <Act onClick={onAddress}>Read it from an address</Act>}
      </p>
    </div>
  );
}
