import type { PracticePart, PracticeView } from '@grammata/contract';
import { useQuery } from '@tanstack/react-query';
import { api, wordsFor, keys } from '../api';
import { CopyAct, Empty, Fault, Note, Sheet } from '../ui';

/** The practice yard: simulated builders and targets to try things on. */
export function Practice() {
  const { data, error, refetch } = useQuery({ queryKey: keys.practice, queryFn: () => api<PracticeView>('/practice') });
  const margin = (
    <>
      <Note tone="goes">Fill in a form, and it arrives at the intake whose address you gave it.</Note>
      <Note tone="look">
        Every target can be made to fail on its own page: slow, busy, out of order, a dropped line.
      </Note>
    </>
  );
  return (
    <Sheet title="Practice" aside={margin}>
      <p className="mt-1 font-serif text-[0.9375rem] text-ink-2">
        Form builders and targets that run beside Grammata, on this machine. Nothing leaves it.
      </p>
      {error && <Fault again={() => void refetch()}>{wordsFor(error)}</Fault>}
      {data && !data.yard && (
        <Empty title="The practice yard is not running.">
          It starts together with the demo: <code className="font-mono text-small">npm run demo</code>.
        </Empty>
      )}
      {data?.yard && (
        <>
          <PartList title="Form builders" parts={data.yard.builders} deed="Fill it in" />
          <PartList title="Targets" parts={data.yard.targets} deed="Look at its records" />
        </>
      )}
    </Sheet>
  );
}

function PartList({ title, parts, deed }: { title: string; parts: PracticePart[]; deed: string }) {
  return (
    <section aria-label={title} className="mt-7">
      <h2 className="border-b border-ink pb-1.5">{title}</h2>
      <ul className="ledger">
        {parts.map(part => (
          <li key={part.id} className="grid gap-x-6 gap-y-1 py-3 sm:grid-cols-[minmax(0,1fr)_auto]">
            <div>
              <div className="font-semibold">{part.name}</div>
              <div className="text-ink-2">{part.summary}</div>
              {part.facts.length > 0 && (
                <dl className="mt-2 grid gap-y-0.5 text-small sm:grid-cols-[9rem_minmax(0,1fr)]">
                  {part.facts.map(({ label, value }) => (
                    <div key={label} className="contents">
                      <dt className="text-ink-3">{label}</dt>
                      <dd className="min-w-0 font-mono [overflow-wrap:anywhere]">
                        {value} <CopyAct className="ml-2 font-sans" text={value} label={`Copy ${label}`} />
                      </dd>
                    </div>
                  ))}
                </dl>
              )}
            </div>
            <a className="act self-start" href={part.page} target="_blank" rel="noreferrer">
              {deed} ↗
            </a>
          </li>
        ))}
      </ul>
    </section>
  );
}
