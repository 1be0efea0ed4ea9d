import type { FormView, NamedSample } from '@grammata/contract';
import { asText } from '@grammata/core/submission';
import { useDeferredValue, useMemo, useRef, useState } from 'react';
import { useKeys } from '../app/keys';
import { SendThrough } from '../recorded';
import { Act, count, counted } from '../ui';
import { Ideas } from './Ideas';
import { useSamples } from './queries';
import { SampleRow } from './SampleRow';

const MOST_SHOWN = 50;

/** Everything a person may look for in a submission, in one text. */
const textOf = ({ submission, name }: NamedSample) =>
  [
    name,
    submission.id,
    ...submission.fields.map(field => asText(field.value)),
    ...submission.files.map(file => file.name),
  ]
    .join(' ')
    .toLowerCase();

/** Search over all submissions of a form. Personal values can be covered, for others to look on. */
export function SampleSearch({ form }: { form: FormView }) {
  const samples = useSamples(form.id).data?.samples;
  const [search, setSearch] = useState('');
  const [covered, setCovered] = useState(false);
  const box = useRef<HTMLInputElement>(null);
  useKeys([
    { key: '/', does: 'search submissions', run: () => box.current?.focus() },
    { key: 'm', does: 'cover personal values', run: () => setCovered(!covered) },
  ]);
  const wanted = useDeferredValue(search.trim().toLowerCase());
  const texts = useMemo(() => (samples ?? []).map(sample => ({ sample, text: textOf(sample) })), [samples]);
  const found =
    wanted === '' ? texts : texts.filter(({ text }) => wanted.split(/\s+/).every(word => text.includes(word)));
  /** Variants are made up: they are not sent. */
  const recorded = found.filter(({ sample }) => !sample.isVariant).map(({ sample }) => sample.id);
  return (
    <>
      <section aria-label="Submissions" className="mt-8">
        <h2 className="flex items-baseline gap-4 border-b border-ink pb-1.5">
          Submissions
          <span role="status" className="font-sans text-small font-normal text-ink-2">
            {wanted !== '' && `${counted(found.length, 'matches', 'match')}`}
          </span>
          <span className="flex-1" />
          <Act className="font-sans text-small" aria-pressed={covered} onClick={() => setCovered(!covered)}>
            {covered ? 'Show personal values' : 'Cover personal values'}
          </Act>
          <input
            ref={box}
            aria-label="Search submissions"
            className="write w-52! font-sans text-body font-normal"
            placeholder="Search"
            value={search}
            onChange={event => setSearch(event.target.value)}
          />
        </h2>
        {wanted !== '' && recorded.length > 0 && (
          <div className="py-2">
            <SendThrough
              formId={form.id}
              what={recorded.length === 1 ? 'the one that matches' : `the ${count(recorded.length)} that match`}
              sampleIds={recorded}
            />
          </div>
        )}
        <ul className="ledger">
          {found.slice(0, MOST_SHOWN).map(({ sample }) => (
            <SampleRow key={sample.id} form={form} sample={sample} covered={covered} />
          ))}
        </ul>
        {samples && found.length === 0 && <p className="py-3 font-serif text-ink-2">Nothing matches.</p>}
        {found.length > MOST_SHOWN && <p className="py-2 text-ink-3">and {found.length - MOST_SHOWN} more.</p>}
      </section>
      <Ideas form={form} samples={samples ?? []} />
    </>
  );
}
