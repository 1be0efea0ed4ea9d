import type { PracticePart } from '@grammata/contract';
import { wordsFor } from '../api';
import { usePractice } from '../lists';
import { CopyAct, Empty, Fault, Note, Sheet } from '../ui';

/** The practice yard: simulated builders and targets to try things on. */
export function Practice() {
  const { data, error, refetch } = usePractice();
  const margin = (
    <>
      <Note tone="goes">Fill in a form to send a submission to your intake.</Note>
      <Note tone="look">On its page, each target can be made to fail: slow, busy, broken, or connection lost.</Note>
    </>
  );
  return (
    <Sheet title="Practice" aside={margin}>
      <p className="mt-1 font-serif text-reading text-ink-2">
        Form builders and targets to practise with. They run on this machine; nothing leaves it.
      </p>
      {error && <Fault again={() => void refetch()}>{wordsFor(error)}</Fault>}
      {data && !data.yard && (
        <Empty title="The practice yard is not running">
          It starts with the demo: <code className="font-mono text-small">npm run demo</code>.
        </Empty>
      )}
      {data?.yard && (
        <>
          <PartList title="Form builders" parts={data.yard.builders} deed="Open form" />
          <PartList title="Targets" parts={data.yard.targets} deed="Open records" />
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
