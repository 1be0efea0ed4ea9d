import { FileAccessInput, IntakeInput, VerificationInput, type IntakeView, type ReplyKind } from '@grammata/contract';
import { useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { afterwards, wordsFor } from '../../api';
import { Confirm, counted } from '../../ui';
import {
  ChoiceField,
  InputForm,
  LinesField,
  ListField,
  NumberField,
  TextField,
  TickField,
  useInput,
} from '../../ui/form';
import { FileAccess } from './FileAccess';
import { useIntakeSettings, useRemoveIntake } from '../queries';
import { Verification } from './Verification';

const replies: Record<ReplyKind, string> = {
  accepted: 'JSON with the message ID, status 202',
  ok: 'JSON with the message ID, status 200',
  page: 'a thank-you page',
  redirect: 'a redirect (303)',
  answer: 'the target’s response',
};

/** The settings as they are stored, without secrets: those that are not typed stay. */
function inputOf(intake: IntakeView): IntakeInput {
  const {
    name,
    sizeLimit,
    reply,
    replyText,
    refusalText,
    replyWait,
    allowedAddresses,
    allowedOrigins,
    sameWithin,
    takesPut,
    keepDays,
  } = intake;
  const { secrets: _, ...rule } = intake.verification ?? { secrets: 0 };
  return {
    name,
    sizeLimit,
    reply,
    replyText,
    refusalText,
    replyWait,
    verification: intake.verification && Object.assign(new VerificationInput(), rule, { secrets: ['', ''] }),
    fileAccess:
      intake.fileAccess &&
      Object.assign(new FileAccessInput(), {
        host: intake.fileAccess.host,
        kind: intake.fileAccess.kind,
        name: intake.fileAccess.name ?? '',
      }),
    allowedAddresses,
    allowedOrigins,
    sameWithin,
    takesPut,
    keepDays,
  };
}

/** The rule with the secrets that were typed; without any, the stored ones stay. */
function withTyped(rule: VerificationInput): VerificationInput {
  const { secrets, ...rest } = rule;
  const typed = secrets?.filter(Boolean) ?? [];
  return typed.length > 0 ? { ...rest, secrets: typed } : rest;
}

/** The intake's name, limit, reply and who may send to it; and its removal. */
export function Settings({ intake, onDone }: { intake: IntakeView; onDone: () => void }) {
  const change = useIntakeSettings(intake);
  const of = useInput({
    input: IntakeInput,
    values: inputOf(intake),
    keptAs: `intake.${intake.id}`,
    save: async (_, { verification, ...changed }) => {
      await change.mutateAsync({
        ...changed,
        ...(verification !== undefined && { verification: verification && withTyped(verification) }),
      });
      onDone();
    },
  });
  const reply = useWatch({ control: of.form.control, name: 'reply' });
  return (
    <InputForm of={of} label="Settings" deed="Save" onCancel={onDone} more={<Removal intake={intake} />}>
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-[1fr_9rem_16rem]">
        <TextField<IntakeInput> name="name" label="Name" />
        <NumberField<IntakeInput> name="sizeLimit" label="Maximum size, MB" per={1e6} />
        <ChoiceField<IntakeInput, ReplyKind> name="reply" label="Response" options={replies} />
      </div>
      {reply === 'answer' && (
        <div className="grid gap-x-6 gap-y-4 sm:grid-cols-[minmax(0,1fr)_12rem]">
          <LinesField<IntakeInput>
            name="replyText"
            label="Response text"
            look="code"
            rows={2}
            placeholder={'{"message": "Your number is {ticket.number}."}'}
            hint="JSON or text. Use {name.of.part} for a part of the target’s response. Leave empty for the whole response."
          />
          <NumberField<IntakeInput>
            name="replyWait"
            label="Timeout, seconds"
            hint="After that, senders are told that the message was received."
          />
          <LinesField<IntakeInput>
            name="refusalText"
            label="If the target rejects it"
            look="code"
            rows={2}
            placeholder={'{"error": "{message}"}'}
            hint="Sent with status 422; also if the submission is held. {message} is the reason, {response.name.of.part} a part of the target’s response. Leave empty to say only that it was received."
          />
        </div>
      )}
      {(reply === 'page' || reply === 'redirect') && (
        <TextField<IntakeInput>
          name="replyText"
          label={reply === 'page' ? 'Text of the page' : 'Redirect URL'}
          placeholder={reply === 'page' ? 'Your answers have been received.' : 'https://…'}
        />
      )}
      <Verification stored={intake.verification} />
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
        <ListField<IntakeInput>
          name="allowedAddresses"
          label="Allowed IP addresses"
          hint="Such as 192.0.2.0/24, 198.51.100.7. Leave empty for all."
          look="code"
        />
        <ListField<IntakeInput>
          name="allowedOrigins"
          label="Allowed origins (CORS)"
          hint="Such as https://basin.example.org, or * for all. Leave empty for none."
          look="code"
        />
        <NumberField<IntakeInput>
          name="sameWithin"
          label="Ignore identical messages within, seconds"
          hint="0 to accept all. The same submission ID with the same answers is always a duplicate."
        />
      </div>
      <TickField<IntakeInput>
        name="takesPut"
        label="Accept PUT and PATCH"
        hint="Some form builders use them for edited submissions. Refused messages are listed with the reason."
      />
      <FileAccess stored={intake.fileAccess} />
      <NumberField<IntakeInput>
        name="keepDays"
        label="Keep messages for, days"
        hint="Leave empty to keep them. Kept samples and undelivered submissions stay."
        whenEmpty="null"
        className="sm:w-1/3"
      />
    </InputForm>
  );
}

/** Removing can't be undone: it asks first, and says what goes with it. */
function Removal({ intake }: { intake: IntakeView }) {
  const remove = useRemoveIntake(intake.id);
  const navigate = useNavigate();
  return (
    <Confirm
      ask="Remove intake…"
      deed="Remove"
      isBusy={remove.isPending}
      fault={remove.error && wordsFor(remove.error)}
      onDo={() => afterwards(remove.mutateAsync(undefined), () => void navigate('/intakes'))}
    >
      This removes {counted(intake.arrivals, 'message')} permanently.
    </Confirm>
  );
}
