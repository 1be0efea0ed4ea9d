import type { FeedView, IntakeView } from '@grammata/contract';
import { useState, type FormEvent } from 'react';
import { ApiFault, wordsFor } from '../app/api';
import { Act, counted, Fault, Labelled, Moment, Press, when } from '../ui';
import { useChangeIntake, useReadFeed } from './queries';

/** How a feed stands: when it was read, what came, when it is read next. */
export function FeedLine({ intake, onSet, isOpen }: { intake: IntakeView; onSet: () => void; isOpen: boolean }) {
  const read = useReadFeed(intake.id);
  const { feed } = intake;
  if (!feed) return null;
  return (
    <section aria-label="Feed" className="border-t border-rule py-2.5">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <b className="font-serif">{feed.on ? 'Reads' : 'Does not read'}</b>
        <code className="min-w-0 font-mono text-small break-all">{feed.url}</code>
        <span className="flex-1" />
        <span className="text-ink-2" role="status">
          <Reading feed={feed} />
        </span>
        <Act onClick={() => read.mutate()} disabled={read.isPending}>
          {read.isPending ? 'Reading…' : 'Read now'}
        </Act>
        <Act onClick={onSet} aria-expanded={isOpen}>
          Change
        </Act>
      </div>
      {feed.reading?.fault && <Fault>{feed.reading.fault}</Fault>}
      {read.error && <Fault>{wordsFor(read.error)}</Fault>}
    </section>
  );
}

function Reading({ feed: { reading, nextAt } }: { feed: FeedView }) {
  const next = nextAt && ` · next ${when(nextAt)}`;
  if (!reading) return <>not read yet{next}</>;
  return (
    <>
      read <Moment at={reading.at} />, {reading.fresh === 0 ? 'nothing new' : counted(reading.fresh, 'new submission')}
      {next}
    </>
  );
}

const auths: Record<FeedView['auth'], string> = {
  none: 'nothing',
  bearer: 'a bearer token',
  basic: 'user and password',
  header: 'a header',
};
const pagings: Record<FeedView['paging'], string> = {
  single: 'is all there is',
  cursor: 'says where the next begins',
  page: 'is one of numbered pages',
  link: 'links to the next (Link header)',
};
const schedules: [every: string, words: string][] = [
  ['* * * * *', 'every minute'],
  ['*/5 * * * *', 'every 5 minutes'],
  ['0 * * * *', 'every hour'],
  ['0 6 * * *', 'every day at 6:00 UTC'],
];

/** The settings of a feed: where, when, with what proof, and how its pages hang together. */
export function FeedSettings({ intake, onDone }: { intake: IntakeView; onDone: () => void }) {
  const before = intake.feed;
  const [url, setUrl] = useState(before?.url ?? '');
  const [on, setOn] = useState(before?.on ?? true);
  const [every, setEvery] = useState(before?.every ?? '*/5 * * * *');
  const [auth, setAuth] = useState<FeedView['auth']>(before?.auth ?? 'none');
  const [name, setName] = useState(before?.name ?? '');
  const [secret, setSecret] = useState('');
  const [paging, setPaging] = useState<FeedView['paging']>(before?.paging ?? 'single');
  const [parameter, setParameter] = useState(before?.parameter ?? '');
  const [cursorAt, setCursorAt] = useState(before?.cursorAt ?? '');
  const [newestFirst, setNewestFirst] = useState(before?.newestFirst ?? true);
  const change = useChangeIntake(intake.id);
  const read = useReadFeed(intake.id);
  const errors = change.error instanceof ApiFault ? (change.error.problem.errors ?? []) : [];
  const errorOf = (field: string) => errors.find(each => each.field === `feed.${field}`)?.message ?? null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const feed = {
      url,
      on,
      every,
      auth,
      name,
      paging,
      parameter,
      cursorAt,
      newestFirst,
      ...(secret ? { secret } : {}),
    };
    change.mutate(
      { feed },
      {
        onSuccess: () => {
          onDone();
          if (on) read.mutate();
        },
      },
    );
  };
  const isListed = schedules.some(([each]) => each === every);
  return (
    <form
      onSubmit={submit}
      aria-label="Feed settings"
      className="mb-2 space-y-4 border-y border-ink bg-raised px-4 py-4"
    >
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-[1fr_14rem]">
        <Labelled label="Address to read" error={errorOf('url')}>
          {ids => (
            <input
              {...ids}
              className="write font-mono text-small"
              value={url}
              onChange={event => setUrl(event.target.value)}
              placeholder="https://builder.example.org/api/rows"
              autoFocus
            />
          )}
        </Labelled>
        <Labelled
          label="When"
          error={errorOf('every')}
          hint={isListed ? undefined : 'minute hour day month weekday, UTC'}
        >
          {ids =>
            isListed ? (
              <select {...ids} className="write" value={every} onChange={event => setEvery(event.target.value)}>
                {schedules.map(([each, words]) => (
                  <option key={each} value={each}>
                    {words}
                  </option>
                ))}
                <option value="0 9 * * 1">by a schedule of your own…</option>
              </select>
            ) : (
              <input
                {...ids}
                className="write font-mono text-small"
                value={every}
                onChange={event => setEvery(event.target.value)}
              />
            )
          }
        </Labelled>
      </div>
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
        <Labelled label="It asks for">
          {ids => (
            <select
              {...ids}
              className="write"
              value={auth}
              onChange={event => setAuth(event.target.value as FeedView['auth'])}
            >
              {Object.entries(auths).map(([key, words]) => (
                <option key={key} value={key}>
                  {words}
                </option>
              ))}
            </select>
          )}
        </Labelled>
        {(auth === 'basic' || auth === 'header') && (
          <Labelled label={auth === 'basic' ? 'User' : 'Name of the header'} error={errorOf('name')}>
            {ids => <input {...ids} className="write" value={name} onChange={event => setName(event.target.value)} />}
          </Labelled>
        )}
        {auth !== 'none' && (
          <Labelled
            label={auth === 'basic' ? 'Password' : auth === 'bearer' ? 'Token' : 'Its value'}
            error={errorOf('secret')}
            hint={before?.hasSecret ? 'Stored; left empty, it stays.' : undefined}
          >
            {ids => (
              <input
                {...ids}
                type="password"
                autoComplete="off"
                className="write"
                value={secret}
                onChange={event => setSecret(event.target.value)}
              />
            )}
          </Labelled>
        )}
      </div>
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
        <Labelled label="One answer">
          {ids => (
            <select
              {...ids}
              className="write"
              value={paging}
              onChange={event => setPaging(event.target.value as FeedView['paging'])}
            >
              {Object.entries(pagings).map(([key, words]) => (
                <option key={key} value={key}>
                  {words}
                </option>
              ))}
            </select>
          )}
        </Labelled>
        {(paging === 'cursor' || paging === 'page') && (
          <Labelled
            label={paging === 'cursor' ? 'Query parameter for the next' : 'Query parameter for the number'}
            error={errorOf('parameter')}
          >
            {ids => (
              <input
                {...ids}
                className="write font-mono text-small"
                value={parameter}
                onChange={event => setParameter(event.target.value)}
                placeholder={paging === 'cursor' ? 'after' : 'page'}
              />
            )}
          </Labelled>
        )}
        {paging === 'cursor' && (
          <Labelled label="Where the answer says it" error={errorOf('cursorAt')}>
            {ids => (
              <input
                {...ids}
                className="write font-mono text-small"
                value={cursorAt}
                onChange={event => setCursorAt(event.target.value)}
                placeholder="/next"
              />
            )}
          </Labelled>
        )}
      </div>
      <div className="flex flex-wrap gap-x-6 gap-y-1">
        <label>
          <input
            type="checkbox"
            className="mr-1.5 accent-(--oxide)"
            checked={newestFirst}
            onChange={event => setNewestFirst(event.target.checked)}
          />
          The newest come first: stop at what is known
        </label>
        <label>
          <input
            type="checkbox"
            className="mr-1.5 accent-(--oxide)"
            checked={on}
            onChange={event => setOn(event.target.checked)}
          />
          Read it on time
        </label>
      </div>
      {change.error && errors.length === 0 && <Fault>{wordsFor(change.error)}</Fault>}
      <div className="flex items-baseline gap-4">
        <button className="press" disabled={change.isPending}>
          Save and read
        </button>
        <Press quiet onClick={onDone}>
          Cancel
        </Press>
        <span className="flex-1" />
        {before && (
          <Act onClick={() => change.mutate({ feed: null }, { onSuccess: onDone })}>Read no feed any more</Act>
        )}
      </div>
    </form>
  );
}
