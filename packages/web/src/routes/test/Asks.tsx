import type { AskView, RunView, RouteTarget } from '@grammata/contract';
import { callName } from '@grammata/core/route';
import { curlLine } from '@grammata/core/request';
import { isReading } from '@grammata/core/target';
import { Changes, doneWords, itemWords, ReadBack } from '../../outcome';
import { counted, Note, Wire } from '../../ui';
import { useWorkbench } from '../workbench';

/** Where a test goes: to the address for tests of each target that has one, and really to the others. */
export function whereTo(targets: RouteTarget[]): string {
  const named = (all: RouteTarget[]) => all.map(each => each.name).join(', ');
  const aside = targets.filter(each => each.tryBaseUrl !== null);
  const really = targets.filter(each => each.tryBaseUrl === null);
  if (aside.length === 0) return `No test address: this sends real data to ${named(really)}.`;
  const first = `Sent to the test address of ${named(aside)}`;
  return really.length === 0 ? `${first}.` : `${first}, but as real data to ${named(really)}.`;
}

/** An operation that is not offered any more was one that writes, as far as anybody knows. */
const unknown = { method: 'POST' } as const;

export const purposes: Record<AskView['purpose'], string> = {
  find: 'look up',
  create: 'write',
  update: 'change',
  readBack: 'read back',
};

/** Requests of one sample in their order, with what was answered. */
export function Asks({
  run,
  isReal,
  isUnderWay = false,
}: {
  run: RunView;
  isReal: boolean;
  /** True while more are to come. */
  isUnderWay?: boolean;
}) {
  const { editing, operationOf, route } = useWorkbench('route', 'editing', 'call');
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
      {run.asks.length === 0 && run.problems.length === 0 && !isUnderWay && (
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
                {call ? callName(call, operationOf(call)) : 'removed call'}
                <span className="font-normal text-ink-2">
                  {call && ask.purpose === 'create' && isReading(operationOf(call) ?? unknown)
                    ? 'read'
                    : purposes[ask.purpose]}
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
                  label={`Request ${index + 1}${isReal ? ', sent' : ''}`}
                  text={ask.request}
                  curl={curlLine(ask.request, addresses)}
                />
                {ask.response && (
                  <div className="mt-3">
                    <p className="text-small text-ink-2">Response</p>
                    <Wire label={`Response ${index + 1}${isReal ? ', as sent' : ''}`} text={ask.response} isWhole />
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
                <ReadBack compared={done.compared} of={`request ${index + 1}${isReal ? ', sent' : ''}`} />
              )}
            </li>
          );
        })}
      </ol>
      {run.asks.length > 1 && !isUnderWay && (
        <p className="pt-2 text-ink-3">{counted(run.asks.length, 'request')} in all.</p>
      )}
    </>
  );
}
