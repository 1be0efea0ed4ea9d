import { FeedInput, type FeedAuth, type FeedPaging, type IntakeView } from '@grammata/contract';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { wordsFor } from '../../api';
import { Act, Choice, Fault } from '../../ui';
import { ChoiceField, InputForm, SecretField, TextField, TickField, useInput } from '../../ui/form';
import { useChangeIntake, useReadFeed } from '../queries';

const auths: Record<FeedAuth, string> = {
  none: 'nothing',
  bearer: 'a bearer token',
  basic: 'user and password',
  header: 'a header',
};
const secretWords: Record<FeedAuth, string> = { none: '', bearer: 'Token', basic: 'Password', header: 'Its value' };
const pagings: Record<FeedPaging, string> = {
  single: 'is all there is',
  cursor: 'says where the next begins',
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

function inputOf({ feed }: IntakeView): FeedInput {
  if (!feed) return new FeedInput();
  const { url, on, every, auth, name, paging, parameter, cursorAt, newestFirst } = feed;
  return Object.assign(new FeedInput(), { url, on, every, auth, name, paging, parameter, cursorAt, newestFirst });
}

/** The settings of a feed: where, when, with what proof, and how its pages hang together. */
export function FeedSettings({ intake, onDone }: { intake: IntakeView; onDone: () => void }) {
  const before = intake.feed;
  const change = useChangeIntake(intake.id);
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
  const [auth, paging, every] = useWatch({ control, name: ['auth', 'paging', 'every'] });
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
        {(auth === 'basic' || auth === 'header') && (
          <TextField<FeedInput> name="name" label={auth === 'basic' ? 'User' : 'Name of the header'} />
        )}
        {auth !== 'none' && (
          <SecretField<FeedInput> name="secret" label={secretWords[auth]} isStored={before?.hasSecret === true} />
        )}
      </div>
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
        <ChoiceField<FeedInput> name="paging" label="One answer" options={pagings} />
        {(paging === 'cursor' || paging === 'page') && (
          <TextField<FeedInput>
            name="parameter"
            label={paging === 'cursor' ? 'Query parameter for the next' : 'Query parameter for the number'}
            look="code"
            placeholder={paging === 'cursor' ? 'after' : 'page'}
          />
        )}
        {paging === 'cursor' && (
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
