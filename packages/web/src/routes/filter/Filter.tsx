import { explainCondition, explainTest, isTest, partsOf, testsOf, type Condition } from '@grammata/core/condition';
import { isRehearsed } from '@grammata/core/rehearse';
import { referredTo } from '@grammata/core/scope';
import { asText } from '@grammata/core/submission';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { Choices, count, counted, Note, When, Margin } from '../../ui';
import { useWorkbench, type Walk } from '../workbench';
import { Group } from './Group';

/** Most submissions that are listed at once. */
const MOST_LISTED = 100;

/** Which submissions go. */
export function Filter() {
  const { editing, stock, run, labelOf, samples } = useWorkbench('editing', 'walk', 'offers', 'rehearsed');
  // Variants are made up: what goes is asked of what came.
  const recorded = useMemo(() => samples.filter(each => !each.isVariant), [samples]);
  const { condition } = editing.draft;
  const change = (next: Condition) => editing.edit(draft => ({ ...draft, condition: next }));
  const parts = partsOf(condition);
  const passing = useMemo(
    () => run?.parts.map(passes => recorded.filter(({ place }) => passes[place] === 1).length) ?? [],
    [run, recorded],
  );
  const going = stock.fares?.going ?? null;
  return (
    <div className="grid flex-1 grid-cols-1 lg:grid-cols-[minmax(0,1fr)_268px]">
      <div className="min-w-0 px-6 pt-4 pb-12 max-sm:px-4">
        <Group condition={condition} onChange={change} path={[]} />
        {testsOf(condition).length > 0 && <Recorded samples={recorded} />}
      </div>
      <Margin>
        <Note tone={stock.state === 'failed' || (stock.recorded > 0 && going === 0) ? 'look' : 'fine'}>
          {stock.state === 'failed'
            ? `Submissions could not be loaded. ${stock.fault}`
            : going === null
              ? 'Checking past submissions…'
              : `${count(going)} of ${counted(stock.recorded, 'past submission')} pass${stock.state === 'loading' ? ' so far' : ''}.`}
        </Note>
        {parts.map((part, index) => {
          // Not known of a part that was written just now.
          const known = stock.isOlder ? undefined : passing[index];
          return (
            <Note key={index} tone={known === 0 ? 'look' : 'goes'}>
              <b className="font-mono text-fine font-normal">{index + 1}</b>{' '}
              {isTest(part) ? explainTest(part, labelOf) : explainCondition(part, labelOf)}:{' '}
              {known === undefined ? '…' : count(known)}.{known === 0 && ' No past submission matches.'}
            </Note>
          );
        })}
        {parts.length > 0 && (
          <Note tone="look">
            Upper and lower case are the same. Numbers may use comma or point; dates are day first.
          </Note>
        )}
      </Margin>
    </div>
  );
}

const lists = { out: 'left out', in: 'going' } as const;
type Listed = keyof typeof lists;

/** The recorded submissions that go, or that do not, with the answers that decide it. */
function Recorded({ samples }: { samples: Walk['samples'] }) {
  const { editing, route, labelOf, run } = useWorkbench('route', 'editing', 'offers', 'rehearsed');
  const [listed, setListed] = useState<Listed>('out');
  const keys = [...new Set(testsOf(editing.draft.condition).map(test => test.field))];
  const known = samples.filter(({ place }) => run !== null && isRehearsed(run, place));
  const [going, out] = [
    known.filter(each => run!.goes[each.place] === 1),
    known.filter(each => run!.goes[each.place] !== 1),
  ];
  const shown = listed === 'in' ? going : out;
  const counts: Record<Listed, number> = { in: going.length, out: out.length };
  return (
    <section aria-label="Past submissions" className="mt-8">
      <div className="flex items-baseline gap-5 border-b border-ink pb-1.5">
        <h2>Past submissions</h2>
        <Choices
          label="Show"
          value={listed}
          onChange={setListed}
          ways={(Object.keys(lists) as Listed[]).map(value => ({ value, label: lists[value], count: counts[value] }))}
        />
      </div>
      {run && shown.length === 0 && (
        <p className="py-2 text-ink-2">{listed === 'out' ? 'None left out.' : 'None passes.'}</p>
      )}
      <ul className="ledger">
        {shown.slice(0, MOST_LISTED).map(sample => (
          <li key={sample.id}>
            <Link
              to={`/routes/${route.id}/mapping?sample=${sample.id}`}
              className="grid grid-cols-[9rem_minmax(0,1fr)] gap-4 py-1.5 hover:bg-raised"
            >
              <span className="text-ink-2">
                <When at={sample.receivedAt} />
              </span>
              <span className="truncate font-mono text-small">
                {keys.map((key, index) => (
                  <span key={key} title={labelOf(key)}>
                    {index > 0 && <span className="text-ink-3"> · </span>}
                    {asText(referredTo(sample.scope, key)) || <span className="text-ink-3">blank</span>}
                  </span>
                ))}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {shown.length > MOST_LISTED && <p className="py-2 text-ink-2">and {count(shown.length - MOST_LISTED)} more.</p>}
    </section>
  );
}
