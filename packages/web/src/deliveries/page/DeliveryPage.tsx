import type { AttemptView, DeliveryView } from '@grammata/contract';
import { curlLine, wireText } from '@grammata/core/request';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { wordsFor } from '../../api';
import { Read } from '../../app/Read';
import { doneWords, ReadBack, itemWords } from '../../outcome';
import {
  Act,
  alike,
  count,
  DeliveryStateWord,
  Moment,
  Note,
  Press,
  Sheet,
  whenExactly,
  whenInFull,
  Wire,
} from '../../ui';
import { asListed, useDelivery, useResend } from '../queries';

export function DeliveryPage() {
  const { id = '' } = useParams();
  const delivery = useDelivery(id);
  return (
    <Read title="Delivery" query={delivery}>
      {data => <Loaded key={id} delivery={data} />}
    </Read>
  );
}

function Loaded({ delivery }: { delivery: DeliveryView }) {
  return (
    <Sheet
      crumb={
        <Link to="/deliveries" className="hover:underline">
          Deliveries
        </Link>
      }
      title={delivery.about}
      aside={<Notes delivery={delivery} />}
    >
      <div className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-1 border-b border-ink pb-3">
        <DeliveryStateWord state={delivery.state} />
        <Link className="act" to={`/routes/${delivery.routeId}`}>
          {delivery.routeName}
        </Link>
        <span className="text-ink-2">
          version {delivery.version} · to {delivery.targetName} · begun <Moment at={delivery.createdAt} />
        </span>
        <span className="flex-1" />
        <Again delivery={delivery} />
      </div>
      {delivery.done.length > 0 && <DoneCalls delivery={delivery} />}
      {delivery.attemptList.length === 0 && <Unsent delivery={delivery} />}
      <Attempts delivery={delivery} />
    </Sheet>
  );
}

function Notes({ delivery }: { delivery: DeliveryView }) {
  return (
    <>
      {alike(delivery.problems, problem => problem.message).map(([{ code, message }, times]) => (
        <Note key={code + message} tone="trouble">
          {message}
          {times > 1 && ` (${count(times)} times)`}
        </Note>
      ))}
      {delivery.problems.length > 0 && (
        <Note tone="goes">
          Fix the line under{' '}
          <Link className="act" to={`/routes/${delivery.routeId}/mapping?sample=${delivery.sampleId}`}>
            Mapping
          </Link>
          , publish, and send again.
        </Note>
      )}
      {(delivery.state === 'dead' || (delivery.state === 'held' && delivery.problems.length === 0)) &&
        delivery.reason && <Note tone="trouble">{delivery.reason}</Note>}
      {delivery.state === 'waiting' && delivery.reason && (
        <Note tone="look">
          {delivery.reason} Next retry {delivery.nextAttemptAt ? `at ${whenExactly(delivery.nextAttemptAt)}` : 'soon'};
          it fails for good {delivery.tryUntil ? `on ${whenInFull(delivery.tryUntil)}` : 'at the route’s retry limit'}.
        </Note>
      )}
      {delivery.state === 'delivered' && (
        <Note tone="fine">Delivered{delivery.finishedAt && ` on ${whenInFull(delivery.finishedAt)}`}.</Note>
      )}
      <Note tone="goes">
        Received as{' '}
        <Link className="act" to={`/arrivals/${delivery.arrivalId}`}>
          this message
        </Link>
        .
      </Note>
      <Note tone="goes">
        Idempotency keys of its requests begin with{' '}
        <code className="font-mono text-small break-all">{delivery.idempotencyKey}</code>. A target that supports them
        stores each request once.
      </Note>
    </>
  );
}

/** Sending again: at once for what failed, after a question for what would be delivered twice. */
function Again({ delivery }: { delivery: DeliveryView }) {
  const [asking, setAsking] = useState(false);
  const resend = useResend();
  const navigate = useNavigate();
  if (delivery.state === 'waiting' || delivery.state === 'sending') return null;
  const send = (mapping: 'then' | 'now') =>
    resend.mutate(
      { ...asListed([delivery]), mapping },
      { onSuccess: ({ ids }) => ids[0] && void navigate(`/deliveries/${ids[0]}`) },
    );
  if (delivery.state === 'delivered' && !asking)
    return (
      <Press quiet onClick={() => setAsking(true)}>
        Send again…
      </Press>
    );
  return (
    <span className="flex items-baseline gap-3">
      {resend.error && (
        <span role="alert" className="text-crimson">
          ! {wordsFor(resend.error)}
        </span>
      )}
      {resend.data?.ids.length === 0 && (
        <span role="alert" className="text-ochre">
          Not sent: its state has changed.
        </span>
      )}
      {asking && <span>The target receives it a second time.</span>}
      <Press onClick={() => send('now')} disabled={resend.isPending}>
        Send again
      </Press>
      <Press
        quiet
        onClick={() => send('then')}
        disabled={resend.isPending}
        title={`With the mapping of version ${delivery.version}, not the live one`}
      >
        Send again with version {delivery.version}
      </Press>
      {asking && <Act onClick={() => setAsking(false)}>Cancel</Act>}
    </span>
  );
}

function Unsent({ delivery }: { delivery: DeliveryView }) {
  return (
    <section aria-label="Not sent yet" className="mt-5">
      <h2>Not sent yet</h2>
      {delivery.planned.length > 0 && delivery.problems.length > 0 && (
        <p className="mt-2 font-serif text-ink-2">Requests, as far as they can be built:</p>
      )}
      {delivery.planned.map(({ callId, plan }, index) => (
        <div key={index} className="mt-2 border-l-2 border-rule pl-4">
          {delivery.calls.length > 1 && (
            <p className="mb-1 text-small font-semibold text-ink-2">{callName(delivery, callId)}</p>
          )}
          <Wire
            label={`Request ${index + 1}`}
            text={wireText(plan)}
            curl={curlLine(wireText(plan), addressesOf(delivery, callId))}
          />
        </div>
      ))}
      {delivery.planned.length === 0 && <p className="mt-2 font-serif text-ink-2">No request can be built.</p>}
    </section>
  );
}

const outcomes: Record<AttemptView['outcome'], { words: string; colour: string }> = {
  delivered: { words: 'delivered', colour: 'text-verdigris' },
  retry: { words: 'may work later', colour: 'text-ochre' },
  final: { words: 'refused', colour: 'text-crimson' },
};

const purposes: Record<AttemptView['purpose'], string> = {
  find: 'look-up',
  create: 'write',
  update: 'change',
  readBack: 'read-back',
};

/** A call by what its operation does. */
const callName = ({ calls }: DeliveryView, callId: string): string => {
  const at = calls.findIndex(each => each.id === callId);
  return at < 0 ? 'removed call' : `${at + 1} ${calls[at]!.label}`;
};

/** What became of each call, and of what it stored. */
function DoneCalls({ delivery }: { delivery: DeliveryView }) {
  const isPlain =
    delivery.calls.length === 1 && delivery.done.every(each => each.what === 'created' && !each.compared && !each.note);
  if (isPlain) return null;
  return (
    <section aria-label="Result" className="mt-5">
      <h2>Result</h2>
      <ul className="ledger mt-1 border-t border-rule">
        {delivery.done.map(done => (
          <li key={`${done.callId} ${done.item}`} className="py-1.5">
            <b className="mr-2 font-semibold">
              {callName(delivery, done.callId)}
              {itemWords(done.item)}
            </b>
            <span className={done.what === 'failed' ? 'text-crimson' : 'text-ink-2'}>
              {doneWords(
                done,
                delivery.attemptList.some(each => each.callId === done.callId && each.purpose === 'find'),
              )}
            </span>
            {done.compared && (
              <ReadBack compared={done.compared} of={`${callName(delivery, done.callId)}${itemWords(done.item)}`} />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Tries of one request the newest first; of several requests each in the order in which they are made. */
const inOrder = ({ attemptList, calls }: DeliveryView): AttemptView[] =>
  calls.length > 1 || attemptList.some(each => each.purpose !== 'create') ? attemptList : attemptList.toReversed();

/** Attempts that are shown at once: each is two texts to look at. */
const AT_ONCE = 12;

function Attempts({ delivery }: { delivery: DeliveryView }) {
  const [most, setMost] = useState(AT_ONCE);
  const all = inOrder(delivery);
  return (
    <>
      {all.slice(0, most).map(attempt => (
        <Attempt key={attempt.id} attempt={attempt} delivery={delivery} />
      ))}
      {all.length > most && (
        <p className="mt-5 border-t border-rule pt-2 text-ink-2">
          {count(most)} of {count(all.length)} attempts.{' '}
          <Act onClick={() => setMost(most + AT_ONCE)}>Show {count(Math.min(AT_ONCE, all.length - most))} more</Act>
        </p>
      )}
    </>
  );
}

/** What an attempt is called: by its number, or by what it does where there is more than one thing to do. */
function attemptNames(delivery: DeliveryView, { callId, purpose, item, number, id, request }: AttemptView) {
  const { calls, attemptList } = delivery;
  if (calls.length === 1 && purpose === 'create') return { title: `Attempt ${number}`, name: `attempt ${number}` };
  const does = purpose === 'create' && request.startsWith('GET ') ? 'read' : purposes[purpose];
  const what = `${callName(delivery, callId)}: ${does}${itemWords(item)}`;
  const same = attemptList.filter(each => each.callId === callId && each.purpose === purpose && each.item === item);
  const title = same.length > 1 ? `${what}, attempt ${same.findIndex(each => each.id === id) + 1}` : what;
  return { title, name: title };
}

const addressesOf = ({ calls }: DeliveryView, callId: string): string[] =>
  calls.find(each => each.id === callId)?.addresses ?? [];

function Attempt({ attempt, delivery }: { attempt: AttemptView; delivery: DeliveryView }) {
  const { words, colour } = outcomes[attempt.outcome];
  const { title, name } = attemptNames(delivery, attempt);
  return (
    <section aria-label={title} className="mt-5">
      <h2 className="flex flex-wrap items-baseline gap-x-4 border-b border-rule pb-1.5">
        {title}
        <span className={`font-sans text-body font-normal ${colour}`}>{words}</span>
        <span className="flex-1" />
        <span className="font-sans text-small font-normal text-ink-2">
          <Moment at={attempt.startedAt} /> · {attempt.milliseconds} ms
        </span>
      </h2>
      <p className="mt-2 font-serif">{attempt.message}</p>
      {attempt.complaints.map(({ field, message, lineId }) => (
        <p key={field + message} className="font-serif text-crimson">
          ! <code className="font-mono text-small">{field}</code> {message}{' '}
          {lineId !== null && (
            <Link
              className="act"
              to={`/routes/${delivery.routeId}/mapping?call=${attempt.callId}&line=${lineId}&sample=${delivery.sampleId}`}
            >
              Open line
            </Link>
          )}
        </p>
      ))}
      <div className="mt-2 grid gap-x-6 gap-y-3 md:grid-cols-2">
        <div className="min-w-0 border-l-2 border-rule pl-4">
          <p className="mb-1 text-small font-semibold text-ink-2">Sent</p>
          <Wire
            label={`Request of ${name}`}
            text={attempt.request}
            curl={curlLine(attempt.request, addressesOf(delivery, attempt.callId))}
          />
        </div>
        <div className="min-w-0 border-l-2 border-rule pl-4">
          <p className="mb-1 text-small font-semibold text-ink-2">Response {attempt.status ?? ''}</p>
          {attempt.response === null ? (
            <p className="font-serif text-ink-2">No response.</p>
          ) : (
            <Wire label={`Response to ${name}`} text={answerText(attempt)} isWhole={attempt.status === null} />
          )}
        </div>
      </div>
    </section>
  );
}

/** An answer as it came: with its status line where it came over HTTP; a mail server's and a file's have none. */
function answerText({ request, status, response }: AttemptView): string {
  const body = pretty(response ?? '');
  return / HTTP\/1\.1$/m.test(request.split('\n', 1)[0]!) ? `HTTP/1.1 ${status}\n\n${body}` : body;
}

function pretty(text: string): string {
  try {
    return JSON.stringify(JSON.parse(text), null, 2);
  } catch {
    return text;
  }
}
