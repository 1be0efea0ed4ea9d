import { FeedInput, type FeedAuth, type FeedPaging, type IntakeView } from '@grammata/contract';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { wordsFor } from '../../api';
import { Act, Choice, Fault } from '../../ui';
import { ChoiceField, InputForm, LinesField, SecretField, TextField, TickField, useInput } from '../../ui/form';
import { useIntakeSettings, useReadFeed } from '../queries';

const auths: Record<FeedAuth, string> = {
  none: 'nothing',
  bearer: 'a bearer token',
  basic: 'user and password',
  header: 'a header',
  oauth: 'OAuth 2 client credentials',
};
const secretWords: Record<FeedAuth, string> = {
  none: '',
  bearer: 'Token',
  basic: 'Password',
  header: 'Its value',
  oauth: 'Client secret',
};
const nameWords: Partial<Record<FeedAuth, string>> = {
  basic: 'User',
  header: 'Name of the header',
  oauth: 'Client identifier',
};
const pagings: Record<FeedPaging, string> = {
  single: 'is all there is',
  cursor: 'says where the next begins',
  next: 'says the next one’s address',
  page: 'is one of numbered pages',
  link: 'links to the next (Link header)',
};
const schedules = {
  '* * * * *': 'every minute',
  '*/5 * * * *': 'every 5 minutes',
  '0 * * * *': 'every hour',
  '0 6 * * *': 'every day at 6:00 UTC',
  own: 'by a schedule of your own…',
};

/** What a feed has that says nothing else. */
const usual = { method: 'GET', body: '', tokenUrl: '', scope: '', clientIn: 'header' } as const;

function inputOf({ feed }: IntakeView): FeedInput {
  if (!feed) return Object.assign(new FeedInput(), usual);
  const { hasSecret: _, nextAt: _next, reading: _reading, ...rule } = feed;
  return Object.assign(new FeedInput(), usual, rule);
}

/** The settings of a feed: where, when, with what proof, and how its pages hang together. */
export function FeedSettings({ intake, onDone }: { intake: IntakeView; onDone: () => void }) {
  const before = intake.feed;
  const change = useIntakeSettings(intake);
  const read = useReadFeed(intake.id);
  const of = useInput({
    input: FeedInput,
    values: inputOf(intake),
    keptAs: `feed.${intake.id}`,
    under: 'feed',
    save: async feed => {
      await change.mutateAsync({ feed });
      onDone();
      if (feed.on) read.mutate();
    },
  });
  const { control, setValue } = of.form;
  const [auth, paging, every, method] = useWatch({ control, name: ['auth', 'paging', 'every', 'method'] });
  const [isOwn, setIsOwn] = useState(!Object.hasOwn(schedules, every));
  const stop = () => change.mutate({ feed: null }, { onSuccess: () => (of.discard(), onDone()) });
  return (
    <InputForm
      of={of}
      label="Feed settings"
      deed="Save and read"
      onCancel={onDone}
      more={before && <Act onClick={stop}>Read no feed any more</Act>}
    >
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-[1fr_14rem]">
        <TextField<FeedInput>
          name="url"
          label="Address to read"
          look="code"
          placeholder="https://builder.example.org/api/rows"
          autoFocus
        />
        {isOwn ? (
          <TextField<FeedInput>
            name="every"
            label="When"
            look="code"
            hint={
              <>
                minute hour day month weekday, UTC.{' '}
                <Act
                  onClick={() => {
                    setIsOwn(false);
                    setValue('every', '*/5 * * * *');
                  }}
                >
                  One of the usual
                </Act>
              </>
            }
          />
        ) : (
          <Choice
            label="When"
            value={every as keyof typeof schedules}
            options={schedules}
            onChange={next => (next === 'own' ? setIsOwn(true) : setValue('every', next, { shouldDirty: true }))}
          />
        )}
      </div>
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
        <ChoiceField<FeedInput> name="auth" label="It asks for" options={auths} />
        {nameWords[auth] && <TextField<FeedInput> name="name" label={nameWords[auth]} autoComplete="off" />}
        {auth !== 'none' && (
          <SecretField<FeedInput> name="secret" label={secretWords[auth]} isStored={before?.hasSecret === true} />
        )}
      </div>
      {auth === 'oauth' && (
        <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
          <TextField<FeedInput>
            name="tokenUrl"
            label="Tokens are had at"
            look="code"
            placeholder="https://builder.example.org/token"
          />
          <TextField<FeedInput> name="scope" label="Scope" look="code" hint="Left empty, the source’s usual one." />
          <ChoiceField<FeedInput>
            name="clientIn"
            label="The client shows itself"
            options={{ header: 'by HTTP Basic', body: 'in the body' }}
          />
        </div>
      )}
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-[14rem_1fr]">
        <ChoiceField<FeedInput>
          name="method"
          label="It is asked by"
          options={{ GET: 'GET', POST: 'POST, with a body' }}
        />
        {method === 'POST' && (
          <LinesField<FeedInput>
            name="body"
            label="What is sent (JSON)"
            rows={2}
            look="code"
            placeholder='{"form":"moorings","limit":100}'
          />
        )}
      </div>
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
        <ChoiceField<FeedInput> name="paging" label="One answer" options={pagings} />
        {(paging === 'cursor' || paging === 'page') && (
          <TextField<FeedInput>
            name="parameter"
            label={paging === 'cursor' ? 'Asks for the next by' : 'Asks for the number by'}
            hint={
              method === 'POST'
                ? 'A query parameter, or a place in what is sent, such as /after.'
                : 'A query parameter.'
            }
            look="code"
            placeholder={paging === 'cursor' ? 'after' : 'page'}
          />
        )}
        {(paging === 'cursor' || paging === 'next') && (
          <TextField<FeedInput> name="cursorAt" label="Where the answer says it" look="code" placeholder="/next" />
        )}
      </div>
      <div className="flex flex-wrap gap-x-6 gap-y-1">
        <TickField<FeedInput> name="newestFirst" label="The newest come first: stop at what is known" />
        <TickField<FeedInput> name="on" label="Read it on time" />
      </div>
      {change.error && change.variables.feed === null && <Fault>{wordsFor(change.error)}</Fault>}
    </InputForm>
  );
}
