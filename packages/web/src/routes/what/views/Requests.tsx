import { callName } from '@grammata/core/route';
import { curlLine } from '@grammata/core/request';
import type { AskView, RunView, RouteTarget } from '@grammata/contract';
import { useState } from 'react';
import { wordsFor } from '../../../api';
import { Changes, doneWords, itemWords, ReadBack } from '../../../outcome';
import { Act, counted, Fault, Moment, Note, Press, Wire } from '../../../ui';
import { useDryRun, useTrial } from '../../queries';
import type { Workbench } from '../../workbench';
import { Overview } from './Overview';

/** Everything the sample at hand sends, call by call: looked up for certain, sent only when it is asked for. */
export function Requests({ workbench }: { workbench: Workbench }) {
  const { route, editing, sample, run } = workbench;
  const isStored = editing.saving === 'saved';
  const dry = useDryRun(route.id, route.revision, sample?.id, isStored);
  const trial = useTrial(route.id);
  const [asking, setAsking] = useState(false);
  const tried = route.trial?.sampleId === sample?.id ? route.trial : null;
  if (!sample) return <p className="px-6 py-4 font-serif text-ink-2">No sample to send yet.</p>;
  return (
    <div className="px-6 pt-3 pb-10">
      <div className="flex flex-wrap items-baseline gap-4">
        <p className="flex-1 font-serif text-ink-2">Every request of this sample, in the order in which it is made.</p>
        {asking ? (
          <span className="flex items-baseline gap-3">
            <span>{whereTo(route.targets)}</span>
            <Press
              onClick={() => trial.mutate(sample.id, { onSettled: () => setAsking(false) })}
              disabled={trial.isPending}
            >
              Send it
            </Press>
            <Act onClick={() => setAsking(false)}>Don’t</Act>
          </span>
        ) : (
          <Press quiet onClick={() => setAsking(true)} disabled={!isStored || trial.isPending}>
            Send it as a test…
          </Press>
        )}
      </div>
      {run?.goes[sample.place] === 0 && (
        <Note tone="look">The route’s condition leaves this sample out; this is what it would send otherwise.</Note>
      )}
      {trial.error && <Fault>{wordsFor(trial.error)}</Fault>}
      {dry.error && <Fault again={() => void dry.refetch()}>{wordsFor(dry.error)}</Fault>}
      {tried && (
        <section aria-label="The last real try" className="mt-4 border-l-2 border-oxide pl-4">
          <h2>
            Really sent <Moment at={tried.at} />
            {tried.revision !== route.revision && (
              <span className="font-sans text-body font-normal text-ochre"> before the last edits</span>
            )}
          </h2>
          <Asks run={tried} workbench={workbench} isReal />
        </section>
      )}
      {dry.data && (
        <section aria-label="What would be sent" className="mt-4">
          {tried && <h2>What it would send now</h2>}
          <p className="font-serif text-ink-2">
            {dry.data.asks.some(each => each.purpose === 'find')
              ? 'What is looked up has been looked up just now; nothing else was sent.'
              : 'Nothing was sent.'}
          </p>
          <Asks run={dry.data} workbench={workbench} isReal={false} />
        </section>
      )}
      {editing.draft.calls.some(each => each.find) && <Overview workbench={workbench} />}
    </div>
  );
}

/** Where a test goes: to the address for tests of each target that has one, and really to the others. */
function whereTo(targets: RouteTarget[]): string {
  const named = (all: RouteTarget[]) => all.map(each => each.name).join(', ');
  const aside = targets.filter(each => each.tryBaseUrl !== null);
  const really = targets.filter(each => each.tryBaseUrl === null);
  if (aside.length === 0) return `There is no address for tests: it is really sent, to ${named(really)}.`;
  const first = `It is sent to the address for tests of ${named(aside)}`;
  return really.length === 0 ? `${first}.` : `${first}, but really to ${named(really)}.`;
}

const purposes: Record<AskView['purpose'], string> = {
  find: 'look up',
  create: 'write',
  update: 'change',
  readBack: 'read back',
};

function Asks({ run, workbench, isReal }: { run: RunView; workbench: Workbench; isReal: boolean }) {
  const { editing, operationOf, route } = workbench;
  const { calls } = editing.draft;
  const addresses = route.targets.flatMap(each => [each.baseUrl, each.tryBaseUrl ?? []].flat());
  const last = (index: number) =>
    run.asks[index + 1]?.callId !== run.asks[index]!.callId || run.asks[index + 1]?.item !== run.asks[index]!.item;
  const doneFor = ({ callId, item }: AskView) => run.done.find(each => each.callId === callId && each.item === item);
  return (
    <>
      {run.problems.map(({ code, message }) => (
        <Note key={code + message} tone="trouble">
          {message}
        </Note>
      ))}
      {run.asks.length === 0 && run.problems.length === 0 && (
        <p className="py-3 font-serif">Nothing is sent for this sample.</p>
      )}
      <ol>
        {run.asks.map((ask, index) => {
          const place = calls.findIndex(each => each.id === ask.callId);
          const call = calls[place];
          const done = doneFor(ask);
          return (
            <li key={index} className="border-b border-rule py-3">
              <h3 className="flex items-baseline gap-3 font-sans text-body font-semibold">
                <span className="font-serif font-normal text-ink-3">{place + 1}</span>
                {call ? callName(call, operationOf(call)) : 'a call that was removed'}
                <span className="font-normal text-ink-2">
                  {purposes[ask.purpose]}
                  {itemWords(ask.item)}
                </span>
                {ask.message && (
                  <span className={`font-normal ${(ask.status ?? 500) < 400 ? 'text-verdigris' : 'text-crimson'}`}>
                    {ask.message}
                  </span>
                )}
              </h3>
              {ask.changes.length > 0 && <Changes changes={ask.changes} />}
              <div className="mt-2 border-l-2 border-rule pl-4">
                <Wire
                  label={`Request ${index + 1}${isReal ? ', really sent' : ''}`}
                  text={ask.request}
                  curl={curlLine(ask.request, addresses)}
                />
                {ask.response && (
                  <div className="mt-3">
                    <p className="text-small text-ink-2">It answered</p>
                    <Wire
                      label={`Answer ${index + 1}${isReal ? ', to what was really sent' : ''}`}
                      text={ask.response}
                      isWhole
                    />
                  </div>
                )}
              </div>
              {done && last(index) && (isReal || ask.purpose === 'find') && (
                <p className="mt-2 font-serif">
                  {doneWords(
                    done,
                    run.asks.some(each => each.callId === done.callId && each.purpose === 'find'),
                  )}
                </p>
              )}
              {done?.compared && last(index) && (
                <ReadBack compared={done.compared} of={`request ${index + 1}${isReal ? ', really sent' : ''}`} />
              )}
            </li>
          );
        })}
      </ol>
      {run.asks.length > 1 && <p className="pt-2 text-ink-3">{counted(run.asks.length, 'request')} in all.</p>}
    </>
  );
}
