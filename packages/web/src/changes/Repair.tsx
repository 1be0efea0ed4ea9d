import type { ChangeTouch, RepairedView, RepairView } from '@grammata/contract';
import type { LineResult } from '@grammata/core/drift';
import { differencesOf } from '@grammata/core/route';
import { referenceLabel, referenceOf } from '@grammata/core/scope';
import { asText } from '@grammata/core/submission';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { wordsFor } from '../api';
import { differenceWords } from '../routes/differences/words';
import { Act, Bar, count, Fault, Moment, Note, Press } from '../ui';
import { stoppedWords } from './effect';
import { useRepair, useTakeRepair } from './queries';
import { Ways, type AskedWay } from './Ways';

/** Repair of one route, in the ways that there are: what would be different in its mapping, and how it fares on what was recorded and approved. */
export function Repair({ changeId, touch }: { changeId: string; touch: ChangeTouch }) {
  const { routeId } = touch;
  const [asked, ask] = useState<AskedWay>({});
  // What is taken is what is shown, whatever is asked for meanwhile.
  const [shown, show] = useState<{ told: RepairedView; asked: AskedWay } | null>(null);
  const { mutate, error, isPending } = useRepair(changeId);
  const propose = useCallback(
    () => mutate({ routeId, ...asked }, { onSuccess: told => show({ told, asked }) }),
    [mutate, routeId, asked],
  );
  useEffect(propose, [propose]);
  if (error) return <Fault again={propose}>{wordsFor(error)}</Fault>;
  if (shown === null)
    return (
      <p role="status" className="mt-2 pb-3 pl-6 font-serif text-ink-2">
        Trying a repair on stored submissions…
      </p>
    );
  const { ways, repair, isDrafted } = shown.told;
  const to = `/routes/${routeId}/mapping`;
  if (ways.length === 0)
    return (
      <p role="status" className="mt-3 mb-3 ml-6 border-l-2 border-ochre pl-3 font-serif text-ink-2">
        {isDrafted ? (
          <>
            The draft has the repair.{' '}
            <Link className="act" to={`${to}?publish=${changeId}`}>
              Review and publish
            </Link>
          </>
        ) : (
          <>
            No automatic repair.{' '}
            <Link className="act" to={to}>
              Open the mapping
            </Link>
          </>
        )}
      </p>
    );
  return (
    <section
      aria-label="Repair"
      aria-busy={isPending}
      className="-mx-6 mt-3 border-t border-ink bg-raised max-sm:-mx-4"
    >
      {(ways.length > 1 || repair === null) && <Ways {...shown} onAsk={ask} />}
      {repair && <Shown key={repair.mark} changeId={changeId} touch={touch} repair={repair} asked={shown.asked} />}
    </section>
  );
}

function Shown({
  changeId,
  touch,
  repair,
  asked,
}: {
  changeId: string;
  touch: ChangeTouch;
  repair: RepairView;
  asked: AskedWay;
}) {
  const { routeId, state } = touch;
  const take = useTakeRepair(changeId);
  const navigate = useNavigate();
  const { words, labels, definition, draft, mark, lines } = repair;
  const differences = useMemo(() => {
    const known = new Map(Object.entries(labels));
    const labelOf = (key: string) => known.get(key) ?? referenceLabel(referenceOf(key)) ?? key;
    return differencesOf(draft, definition).map(each => ({
      ...differenceWords(each, { labelOf, callOf: call => call.name || 'a call' }),
      line: each.what === 'line' ? lines.findIndex(({ lineId }) => lineId === each.lineId) : null,
    }));
  }, [labels, draft, definition, lines]);
  const [at, look] = useState(() => firstTold(repair));
  const apply = (then: string) =>
    take.mutate({ routeId, mark, ...asked }, { onSuccess: () => navigate(`/routes/${routeId}/mapping${then}`) });
  const isLive = state !== 'draft';
  const stopped = stoppedWords([touch], false);
  return (
    <div className="grid lg:grid-cols-[minmax(0,604fr)_minmax(0,676fr)]">
      <div className="min-w-0 px-6 py-2 max-sm:px-4 sm:pl-12">
        <header className="flex flex-wrap items-baseline gap-x-3.5 pb-1">
          <h3 className="font-semibold">Repair</h3>
          <p className="min-w-0 flex-1 font-serif text-ink-2">{words.join(' ')}</p>
          <Act className="quiet" onClick={() => apply('')} disabled={take.isPending}>
            Edit in mapping
          </Act>
        </header>
        <table className="w-full table-fixed text-left">
          <colgroup>
            <col className="w-30" />
            <col />
          </colgroup>
          <thead className="sr-only">
            <tr>
              <th>Where</th>
              <th>As it stands, and repaired</th>
            </tr>
          </thead>
          <tbody>
            {differences.map(({ key, where, before, after, line }) => (
              <tr key={key} className="border-t border-rule align-baseline">
                <th scope="row" className="py-1.5 pr-3 font-normal wrap-anywhere">
                  {line !== null && line >= 0 && lines.length > 1 ? (
                    <button
                      type="button"
                      aria-pressed={line === at}
                      title="Show what it gives"
                      onClick={() => look(line)}
                      className={`text-left font-mono text-small hover:underline ${line === at ? 'font-semibold' : ''}`}
                    >
                      {where}
                    </button>
                  ) : (
                    <span className={line === null ? '' : 'font-mono text-small'}>{where}</span>
                  )}
                </th>
                <td className="py-1.5 wrap-anywhere">
                  <Side sign="−" className="bg-crimson-wash" mark="text-crimson" word="as it stands" text={before} />
                  <Side sign="+" className="bg-verdigris-wash" mark="text-verdigris" word="repaired" text={after} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="min-w-0 border-rule px-5 py-2 max-lg:border-t max-sm:px-4 lg:border-l lg:pr-6">
        <TriedTable repair={repair} at={at} />
      </div>
      <div className="flex flex-wrap items-center gap-x-3.5 gap-y-2 border-t border-rule px-6 py-3 max-sm:px-4 sm:pl-12">
        <Press onClick={() => apply(isLive ? `?publish=${changeId}` : '')} disabled={take.isPending}>
          {take.isPending ? 'Applying…' : isLive ? 'Publish repair…' : 'Apply to draft'}
        </Press>
        {stopped && <span className="text-ink-2">{stopped} can be sent once it is live.</span>}
        {take.error && <Fault>{wordsFor(take.error)}</Fault>}
      </div>
      <Gain repair={repair} />
    </div>
  );
}

function Side({
  sign,
  className,
  mark,
  word,
  text,
}: {
  sign: string;
  className: string;
  mark: string;
  word: string;
  text: string | null;
}) {
  if (text === null) return null;
  return (
    <div className={`flex gap-2 px-2 ${className}`}>
      <span aria-hidden className={`font-mono font-semibold ${mark}`}>
        {sign}
      </span>
      <span className="sr-only">{word}: </span>
      <span className="min-w-0">{text}</span>
    </div>
  );
}

/** How many can be sent as it stands and repaired, and whether the proofs pass. */
function Gain({ repair: { samples, proofs } }: { repair: RepairView }) {
  const { looked, held, lookedThen, heldThen } = samples;
  const row = (label: string, of: number, unsendable: number) => (
    <div className="grid grid-cols-[6rem_9rem_minmax(0,1fr)] items-center">
      <span className="text-ink-2">{label}</span>
      <Bar fine={of - unsendable} trouble={unsendable} width={128} />
      <span>
        <b className="font-semibold">{count(of - unsendable)}</b> of {count(of)} can be sent
      </span>
    </div>
  );
  return (
    <div role="status" className="min-w-0 space-y-2 border-t border-rule px-5 py-2 max-sm:px-4 lg:border-l lg:pr-6">
      {looked + lookedThen === 0 ? (
        <Note tone="look">No submission stored to try it on.</Note>
      ) : (
        <div>
          {row('As it stands', looked, held)}
          {row('Repaired', lookedThen, heldThen)}
        </div>
      )}
      <div className="space-y-1">
        {heldThen > 0 && (
          <Note tone="trouble">
            {count(heldThen)} {held === 0 ? 'let through, but' : 'still'} can’t be sent.
          </Note>
        )}
        {proofs.total > 0 && (
          <Note tone={proofs.differingThen === 0 ? 'fine' : 'look'}>
            {proofs.differingThen === 0
              ? proofs.total === 1
                ? 'The proof passes.'
                : `All ${count(proofs.total)} proofs pass.`
              : `${count(proofs.differingThen)} of ${count(proofs.total)} proofs differ${proofs.differing === proofs.differingThen ? ', the same as now' : `; without the repair, ${count(proofs.differing)} do`}.`}
          </Note>
        )}
      </div>
      {proofs.accepted > 0 && (
        <p className="text-ink-2">
          {proofs.accepted === proofs.differingThen
            ? 'Accepted with this repair, since they differ only by it.'
            : `Accepted with this repair, since they differ only by it: ${count(proofs.accepted)}.`}
        </p>
      )}
    </div>
  );
}

const FEW = 5;

const isOther = (one: LineResult | null, other: LineResult | null): boolean =>
  JSON.stringify(one) !== JSON.stringify(other);

/** The first line that gives something else. */
const firstTold = ({ lines, tried }: RepairView): number =>
  Math.max(
    0,
    lines.findIndex((_, at) => tried.some(({ stands, then }) => isOther(stands[at]!, then[at]!))),
  );

/** What a line gives for the newest submissions, as it stands and repaired: those for which it differs first. */
function TriedTable({ repair: { lines, tried }, at }: { repair: RepairView; at: number }) {
  const [showsAll, showAll] = useState(false);
  const line = lines[at];
  if (!line || tried.length === 0) return null;
  const rows = tried
    .map(({ receivedAt, stands, then }) => ({ receivedAt, stands: stands[at]!, then: then[at]! }))
    .toSorted((one, other) => Number(isOther(other.stands, other.then)) - Number(isOther(one.stands, one.then)));
  return (
    <>
      <header className="flex items-baseline justify-between gap-x-4 pb-1">
        <h3 className="font-semibold">Tried on samples</h3>
        {rows.length > FEW && (
          <Act className="quiet" onClick={() => showAll(!showsAll)} aria-expanded={showsAll}>
            {showsAll ? 'Show fewer' : `Show all ${count(rows.length)}`}
          </Act>
        )}
      </header>
      <table className="w-full table-fixed text-left">
        <thead className="text-small text-ink-2">
          <tr className="border-t border-rule">
            <th className="w-28 py-1 pr-3 font-normal">Received</th>
            <th className="py-1 pr-3 font-normal wrap-anywhere">
              <code>{line.to}</code> as it stands
            </th>
            <th className="py-1 font-normal wrap-anywhere">
              <code>{line.to}</code> repaired
            </th>
          </tr>
        </thead>
        <tbody>
          {(showsAll ? rows : rows.slice(0, FEW)).map(({ receivedAt, stands, then }, index) => (
            <tr key={`${receivedAt} ${index}`} className="border-t border-dotted border-rule-strong align-baseline">
              <td className="py-1 pr-3">
                <Moment at={receivedAt} />
              </td>
              <td className="py-1 pr-3">
                <Result of={stands} />
              </td>
              <td className="py-1">
                {isOther(stands, then) || (then && 'problem' in then) ? (
                  <Result of={then} />
                ) : (
                  <span className="text-ink-2">unchanged</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function Result({ of }: { of: LineResult | null }) {
  if (of === null) return <span className="text-ink-3">not sent</span>;
  if ('problem' in of)
    return (
      <span className="text-crimson">
        <span aria-hidden className="mr-1.5 font-mono font-bold">
          !
        </span>
        {of.problem}
      </span>
    );
  const text = of.value === null ? '' : asText(of.value);
  return text ? (
    <code className="line-clamp-2 text-small wrap-anywhere" title={text}>
      {text.slice(0, 200)}
    </code>
  ) : (
    <span className="text-ink-3">blank</span>
  );
}
