import type { RecordedPreview, RouteView, SelectionInput } from '@grammata/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../api';
import { count, counted, Fault, midnight, Note, Press, TextBox, Tick } from '../ui';
import { useRecordedPreview, useSendRecorded } from './queries';

/** Days as people give them, as times: from the beginning of the first to the end of the last. */
export const timesOf = ({ from, to }: { from: string; to: string }): Pick<SelectionInput, 'since' | 'until'> => ({
  ...(from && { since: midnight(from, 0) }),
  ...(to && { until: midnight(to, 1) }),
});

/** Sends recorded submissions through a live route: who is meant, what would happen, and then doing it. */
export function SendRecorded({
  route,
  selection,
  onClose,
}: {
  route: RouteView;
  /** Which are meant, beside the days that can be given here. */
  selection: SelectionInput;
  onClose: () => void;
}) {
  const [days, setDays] = useState({ from: '', to: '' });
  const [again, setAgain] = useState(false);
  const meant = { ...selection, ...timesOf(days) };
  const preview = useRecordedPreview(route.id, meant);
  const send = useSendRecorded(route.id, () => void preview.refetch());
  const { data } = preview;
  const going = data ? data.fresh + (again ? data.delivered : 0) : 0;
  const all = data !== undefined && data.looked === data.total;
  return (
    <section aria-label="Send past submissions" className="mt-3 border border-ink bg-raised px-5 py-4">
      <h2>Send past submissions</h2>
      <div className="mt-2 flex flex-wrap items-start gap-x-6 gap-y-3">
        <p className="min-w-64 flex-1 font-serif text-ink-2">{meantWords(selection, route)}</p>
        <div className="flex gap-4">
          <TextBox
            label="From"
            type="date"
            boxClass="w-40!"
            value={days.from}
            onChange={from => setDays({ ...days, from })}
          />
          <TextBox label="To" type="date" boxClass="w-40!" value={days.to} onChange={to => setDays({ ...days, to })} />
        </div>
      </div>
      <div className="mt-3 space-y-1.5" role="status">
        {preview.isPending && <Note tone="look">Checking past submissions…</Note>}
        {data && <Foreseen preview={data} routeId={route.id} />}
      </div>
      {preview.error && <Fault again={() => void preview.refetch()}>{wordsFor(preview.error)}</Fault>}
      {data && data.delivered > 0 && (
        <Tick
          className="mt-3"
          label={
            <>
              Also send those already delivered
              {again && (
                <b className="block text-crimson">
                  {counted(data.delivered, 'record', 'records')} may be stored twice.
                </b>
              )}
            </>
          }
          checked={again}
          onChange={setAgain}
        />
      )}
      {send.error && <Fault>{wordsFor(send.error)}</Fault>}
      <div className="mt-3 flex items-baseline gap-4">
        <Press
          onClick={() =>
            data &&
            send.mutate({ selection: meant, again, version: data.version, asOf: data.asOf }, { onSuccess: onClose })
          }
          disabled={going === 0 || send.isPending}
        >
          {going === 0 ? 'Nothing to send' : all ? `Send ${count(going)}` : 'Send'}
        </Press>
        <Press quiet onClick={onClose}>
          Cancel
        </Press>
        <span className="text-ink-3">
          Oldest first. It can be stopped.{data && data.held > 0 && ` ${count(data.held)} will be held.`}
        </span>
      </div>
    </section>
  );
}

function meantWords({ sampleIds, arrivalId, search }: SelectionInput, { form }: RouteView): string {
  if (sampleIds) return `The ${counted(sampleIds.length, 'submission')} you selected of “${form.name}”.`;
  if (arrivalId) return `Submissions of “${form.name}” from one message or file.`;
  if (search) return `Submissions of “${form.name}” containing “${search}”.`;
  return `All submissions of “${form.name}”.`;
}

/** What would happen, a note for each kind. */
function Foreseen({ preview, routeId }: { preview: RecordedPreview; routeId: string }) {
  const { total, looked, leftOut, delivered, underWay, troubled, fresh, held, reasons } = preview;
  if (total === 0) return <Note tone="look">No submissions match.</Note>;
  return (
    <>
      {looked < total && (
        <Note tone="look">
          The oldest {count(looked)} of {count(total)} were checked.
        </Note>
      )}
      <Note tone={fresh > held ? 'fine' : 'look'}>
        {fresh === 0 ? 'No new submission to send.' : `${count(fresh - held)} will be sent for the first time.`}
      </Note>
      {held > 0 && (
        <Note tone="trouble">
          {count(held)} can’t be sent as they are and will be held.{' '}
          {reasons.map(({ message, count: n }) => (
            <span key={message} className="block text-ink-2">
              {count(n)} × {message}
            </span>
          ))}
        </Note>
      )}
      {delivered > 0 && <Note tone="goes">{count(delivered)} were already delivered and are skipped.</Note>}
      {underWay > 0 && <Note tone="goes">{count(underWay)} are being delivered now.</Note>}
      {troubled > 0 && (
        <Note tone="look">
          {count(troubled)} are held or failed.{' '}
          <Link className="act" to={`/deliveries?route=${routeId}`}>
            Open deliveries to send them again
          </Link>
        </Note>
      )}
      {leftOut > 0 && <Note tone="goes">{count(leftOut)} do not pass the filter.</Note>}
    </>
  );
}
