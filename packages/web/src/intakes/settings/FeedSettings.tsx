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
  header: 'Header value',
  oauth: 'Client secret',
};
const nameWords: Partial<Record<FeedAuth, string>> = {
  basic: 'User',
  header: 'Header name',
  oauth: 'Client ID',
};
const pagings: Record<FeedPaging, string> = {
  single: 'is complete',
  cursor: 'gives a cursor',
  next: 'gives the next URL',
  page: 'is a numbered page',
  link: 'has a Link header',
};
const schedules = {
  '* * * * *': 'every minute',
  '*/5 * * * *': 'every 5 minutes',
  '0 * * * *': 'every hour',
  '0 6 * * *': 'every day at 6:00 UTC',
  own: 'custom schedule…',
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
      deed="Save and poll"
      onCancel={onDone}
      more={before && <Act onClick={stop}>Remove feed</Act>}
    >
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-[1fr_14rem]">
        <TextField<FeedInput>
          name="url"
          label="URL to poll"
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
                  Choose a common schedule
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
        <ChoiceField<FeedInput> name="auth" label="It requires" options={auths} />
        {nameWords[auth] && <TextField<FeedInput> name="name" label={nameWords[auth]} autoComplete="off" />}
        {auth !== 'none' && (
          <SecretField<FeedInput> name="secret" label={secretWords[auth]} isStored={before?.hasSecret === true} />
        )}
      </div>
      {auth === 'oauth' && (
        <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
          <TextField<FeedInput>
            name="tokenUrl"
            label="Token URL"
            look="code"
            placeholder="https://builder.example.org/token"
          />
          <TextField<FeedInput> name="scope" label="Scope" look="code" hint="Leave empty for the source’s default." />
          <ChoiceField<FeedInput>
            name="clientIn"
            label="Client authentication"
            options={{ header: 'HTTP Basic', body: 'in the body' }}
          />
        </div>
      )}
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-[14rem_1fr]">
        <ChoiceField<FeedInput> name="method" label="Method" options={{ GET: 'GET', POST: 'POST with a body' }} />
        {method === 'POST' && (
          <LinesField<FeedInput>
            name="body"
            label="Request body (JSON)"
            rows={2}
            look="code"
            placeholder='{"form":"moorings","limit":100}'
          />
        )}
      </div>
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
        <ChoiceField<FeedInput> name="paging" label="One response" options={pagings} />
        {(paging === 'cursor' || paging === 'page') && (
          <TextField<FeedInput>
            name="parameter"
            label={paging === 'cursor' ? 'Parameter for the cursor' : 'Parameter for the page number'}
            hint={
              method === 'POST'
                ? 'A query parameter, or a place in the request body such as /after.'
                : 'A query parameter.'
            }
            look="code"
            placeholder={paging === 'cursor' ? 'after' : 'page'}
          />
        )}
        {(paging === 'cursor' || paging === 'next') && (
          <TextField<FeedInput> name="cursorAt" label="Place in the response" look="code" placeholder="/next" />
        )}
      </div>
      <div className="flex flex-wrap gap-x-6 gap-y-1">
        <TickField<FeedInput> name="newestFirst" label="Newest first: stop at the first known submission" />
        <TickField<FeedInput> name="on" label="Poll on schedule" />
      </div>
      {change.error && change.variables.feed === null && <Fault>{wordsFor(change.error)}</Fault>}
    </InputForm>
  );
}
