import { callName } from '@grammata/core/route';
import { useState } from 'react';
import { useKeys } from '../../app/keys';
import { Act, counted } from '../../ui';
import { useWorkbench } from '../workbench';
import { AddCall } from './AddCall';
import { callWords } from './callWords';
import { CallTerms } from './CallTerms';

/** The calls of a route, in the order in which they are made; one of them is looked at. */
export function Calls() {
  const { editing, call, callAt, showCall, operationOf, targetOf, run, labelOf } = useWorkbench(
    'editing',
    'call',
    'offers',
    'rehearsed',
  );
  const { calls } = editing.draft;
  const [opened, setOpened] = useState<'terms' | 'add' | null>(null);
  const toggle = (which: 'terms' | 'add') => setOpened(opened === which ? null : which);
  useKeys([
    { key: 'c', does: 'next call', run: () => showCall(calls[(callAt + 1) % calls.length]!.id) },
    { key: 'm', does: 'call settings', run: () => toggle('terms') },
  ]);
  return (
    <section aria-label="Calls" className="relative border-b border-rule bg-paper">
      <div className={calls.length === 1 ? 'md:flex md:items-baseline' : undefined}>
        <ol className="min-w-0 flex-1">
          {calls.map((each, index) => {
            const isShown = each.id === call.id;
            const fares = run?.calls[run.callIds.indexOf(each.id)];
            const troubled = fares?.lines.filter(line => line.trouble > 0).length ?? 0;
            const missing = fares?.missing.length ?? 0;
            const warns = [
              troubled > 0 && `${counted(troubled, 'line')} with problems`,
              missing > 0 && `${counted(missing, 'required field')} missing`,
            ].filter(Boolean);
            const operation = operationOf(each);
            return (
              <li
                key={each.id}
                className={`border-l-[3px] ${isShown ? 'border-oxide' : 'border-transparent'} ${index > 0 ? 'border-t border-t-rule' : ''}`}
              >
                <button
                  type="button"
                  aria-current={isShown ? 'true' : undefined}
                  onClick={() => showCall(each.id)}
                  className="grid w-full grid-cols-[23px_minmax(0,1fr)] sm:grid-cols-[23px_minmax(0,1fr)_auto] items-baseline gap-x-2.5 py-1.5 pr-6 pl-3.5 text-left hover:bg-raised"
                >
                  <span className="pr-1 text-right font-serif text-ink-3">{index + 1}</span>
                  <span className="min-w-0">
                    <b className={`font-serif text-reading ${isShown ? 'font-semibold' : 'font-normal'}`}>
                      {callName(each, operation)}
                    </b>{' '}
                    <span className="text-ink-2">
                      {[targetOf(each)?.name ?? 'removed target', ...callWords(each, labelOf)].join(' · ')}
                    </span>
                  </span>
                  <span className="text-small text-crimson max-sm:col-start-2">
                    {operation ? warns.join(', ') : 'operation removed'}
                  </span>
                </button>
              </li>
            );
          })}
        </ol>
        <p
          className={`flex gap-5 py-1.5 pr-6 pl-[50px] ${calls.length === 1 ? 'md:pl-0' : 'border-t border-dotted border-rule'}`}
        >
          <Act
            className="quiet"
            onClick={() => toggle('terms')}
            aria-expanded={opened === 'terms'}
            aria-keyshortcuts="m"
          >
            {calls.length > 1 ? `Settings of call ${callAt + 1}` : 'Call settings'}
          </Act>
          <Act className="quiet" onClick={() => toggle('add')} aria-expanded={opened === 'add'}>
            Add call
          </Act>
          {calls.length > 1 && <span className="text-ink-3">{counted(calls.length, 'call')}, in this order</span>}
        </p>
      </div>
      {opened === 'terms' && <CallTerms key={call.id} onClose={() => setOpened(null)} />}
      {opened === 'add' && <AddCall onClose={() => setOpened(null)} />}
    </section>
  );
}
