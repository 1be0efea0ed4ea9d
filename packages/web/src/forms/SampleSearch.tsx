import type { FormView } from '@grammata/contract';
import { useRef, useState } from 'react';
import { wordsFor } from '../api';
import { useKeys } from '../app/keys';
import { useNextPage } from '../lists';
import { SendThrough } from '../recorded';
import { Act, ofNewest, count, counted, Fault, TextBox, useSettled } from '../ui';
import { Ideas } from './Ideas';
import { useFound } from './queries';
import { SampleRow } from './SampleRow';

/** ms after the last letter before the server is asked. */
const PAUSE = 250;

/** Search over all submissions of a form. Personal values can be covered, for others to look on. */
export function SampleSearch({ form }: { form: FormView }) {
  const [search, setSearch] = useState('');
  const [covered, setCovered] = useState(false);
  const box = useRef<HTMLInputElement>(null);
  useKeys([
    { key: '/', does: 'search submissions', run: () => box.current?.focus() },
    { key: 'm', does: 'hide personal data', run: () => setCovered(!covered) },
  ]);
  const wanted = useSettled(search.trim(), PAUSE);
  const found = useFound(form.id, wanted);
  const { bring, isBringing } = useNextPage(`${form.id} ${wanted}`, found);
  const newest = useFound(form.id, '').data?.pages[0]?.samples ?? [];
  const samples = found.data?.pages.flatMap(page => page.samples) ?? [];
  const { total = 0, searched = null } = found.data?.pages[0] ?? {};
  const variants = samples.filter(each => each.isVariant).length;
  const recorded = samples.length - variants;
  return (
    <>
      <section aria-label="Submissions" className="mt-8">
        <h2 className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-ink pb-1.5">
          Submissions
          <span role="status" className="font-sans text-small font-normal text-ink-2">
            {wanted !== '' && found.data && `${counted(total + variants, 'matches', 'match')}${ofNewest(searched)}`}
          </span>
          <span className="flex-1" />
          <Act className="font-sans text-small" aria-pressed={covered} onClick={() => setCovered(!covered)}>
            {covered ? 'Show personal data' : 'Hide personal data'}
          </Act>
          <TextBox
            boxRef={box}
            label="Search submissions"
            isBare
            boxClass="w-52! font-sans text-body font-normal"
            placeholder="Search"
            value={search}
            onChange={setSearch}
          />
        </h2>
        {wanted !== '' && total > 0 && (
          <div className="py-2">
            <SendThrough
              formId={form.id}
              what={
                searched !== null
                  ? 'all that match'
                  : total === 1
                    ? 'the one that matches'
                    : `the ${count(total)} that match`
              }
              search={wanted}
            />
          </div>
        )}
        {found.error && <Fault again={() => void found.refetch()}>{wordsFor(found.error)}</Fault>}
        {found.isPending && <p className="py-3 font-serif text-ink-3">Loading submissions…</p>}
        <ul className="ledger">
          {samples.map(sample => (
            <SampleRow key={sample.id} form={form} sample={sample} covered={covered} />
          ))}
        </ul>
        {found.data && samples.length === 0 && (
          <p className="py-3 font-serif text-ink-2">
            No matches.{searched !== null && ' Older submissions were not searched. Add words to narrow the search.'}
          </p>
        )}
        {bring && (
          <p className="py-2 text-ink-2">
            {count(recorded)} of {count(total)}.{' '}
            <Act onClick={bring} disabled={isBringing}>
              Show more
            </Act>
          </p>
        )}
      </section>
      <Ideas form={form} samples={newest} />
    </>
  );
}
