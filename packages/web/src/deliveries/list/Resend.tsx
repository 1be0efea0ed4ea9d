import { useState } from 'react';
import { wordsFor } from '../../api';
import { Act, count, counted, Fault, Note, Press } from '../../ui';
import { asListed, useResend } from '../queries';
import { none, type Chosen } from './choosing';
import { asked, type Filter } from './useFilter';

/** States out of which everything that matches can be sent again. */
const ended = ['held', 'dead', 'delivered'] as const;
type Ended = (typeof ended)[number];

/** What can be done with the deliveries that are chosen, or with all that match. */
export function Resend({
  listed,
  total,
  asOf,
  isWhole,
  chosen,
  filter,
  onChoose,
}: {
  /** How many of them are here. */
  listed: number;
  /** All that match, whether they are seen or not. */
  total: number;
  /** The newest delivery that is counted among them: what began later is not meant. */
  asOf: string | null;
  /** False where only the newest that hold the words of a search were looked through. */
  isWhole: boolean;
  chosen: Chosen;
  filter: Filter;
  onChoose: (chosen: Chosen) => void;
}) {
  const resend = useResend();
  /** The mapping with which some would be delivered a second time, while that is asked about; forgotten with what is chosen. */
  const [armed, arm] = useState<{ mapping: 'then' | 'now'; of: Chosen } | null>(null);
  const asking = armed?.of === chosen ? armed.mapping : null;
  const setAsking = (mapping: 'then' | 'now' | null) => arm(mapping && { mapping, of: chosen });
  const state: Ended | null = ended.find(each => each === filter.state) ?? null;
  const picked = chosen.isAll ? [] : [...chosen.rows.values()];
  const number = chosen.isAll ? total : picked.length;
  const twice = chosen.isAll
    ? state === 'delivered'
      ? total
      : 0
    : picked.filter(row => row.state === 'delivered').length;
  const send = (mapping: 'then' | 'now') => {
    const { state: _, ...others } = asked(filter);
    const meant = chosen.isAll
      ? { ids: [], filter: { ...others, state: state! }, ...(asOf !== null && { upTo: asOf }) }
      : asListed(picked);
    setAsking(null);
    resend.mutate({ ...meant, mapping }, { onSuccess: () => onChoose(none) });
  };
  // What would be there twice is asked about first.
  const begin = (mapping: 'then' | 'now') => (twice > 0 ? setAsking(mapping) : send(mapping));
  const sent = resend.data && !resend.data.work ? resend.data.ids.length : 0;
  const left = resend.data && !resend.data.work ? resend.variables.ids.length - sent : 0;
  return (
    <>
      <p role="status" className="sr-only">
        {sent > 0 ? `${counted(sent, 'delivery', 'deliveries')} sent again` : ''}
        {left > 0 ? ` ${count(left)} not sent, since their state changed` : ''}
      </p>
      {number === 0 && (
        <Note tone="goes">
          Select deliveries to send them again: one by one, a range with Shift, or{' '}
          {!isWhole ? (
            'all that match, if you narrow the search'
          ) : state && total > 0 ? (
            <Act onClick={() => onChoose({ rows: new Map(), isAll: true })}>all {count(total)} that match</Act>
          ) : (
            'all held, failed or delivered ones, if you filter by that state'
          )}
          . Requests that succeeded are not repeated.
        </Note>
      )}
      {number > 0 && (
        <Note tone="goes">
          {chosen.isAll
            ? `All ${counted(number, 'delivery', 'deliveries')} that match, listed or not.`
            : `${counted(number, 'delivery', 'deliveries')} selected.`}{' '}
          {!chosen.isAll && state && isWhole && total > listed && (
            <Act onClick={() => onChoose({ rows: new Map(), isAll: true })}>Select all {count(total)} that match</Act>
          )}{' '}
          <Act onClick={() => onChoose(none)}>Clear selection</Act>
          {asking ? (
            <span className="mt-1 block">
              <b className="block text-crimson">
                {counted(twice, 'was', 'were')} already delivered: the target receives {twice === 1 ? 'it' : 'them'} a
                second time.
              </b>
              <span className="mt-2 flex flex-wrap gap-2 font-sans">
                <Press onClick={() => send(asking)} disabled={resend.isPending}>
                  Send {twice < number && `${count(number)}, `}
                  {count(twice)} a second time
                </Press>
                <Act autoFocus onClick={() => setAsking(null)}>
                  Cancel
                </Act>
              </span>
            </span>
          ) : (
            <span className="mt-2 flex flex-wrap gap-2 font-sans">
              <Press onClick={() => begin('now')} disabled={resend.isPending}>
                {number > 1 ? `Send ${count(number)} again` : 'Send again'}
                {twice > 0 && '…'}
              </Press>
              <Press
                quiet
                onClick={() => begin('then')}
                disabled={resend.isPending}
                title="Each with the mapping of its original version, not the live one"
              >
                with the original mapping{twice > 0 && '…'}
              </Press>
            </span>
          )}
        </Note>
      )}
      {sent > 0 && <Note tone="fine">{counted(sent, 'delivery', 'deliveries')} queued again.</Note>}
      {left > 0 && (
        <Note tone="look">
          {counted(left, 'delivery was', 'deliveries were')} not sent: {left === 1 ? 'its' : 'their'} state has changed.
        </Note>
      )}
      {resend.error && <Fault>{wordsFor(resend.error)}</Fault>}
    </>
  );
}
