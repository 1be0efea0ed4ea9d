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
  accepted: 'JSON with the arrival’s id, 202',
  ok: 'JSON with the arrival’s id, 200',
  page: 'a thank-you page',
  redirect: 'a redirect (303)',
  answer: 'what the target answers',
};

/** The settings as they are stored, without secrets: those that are not typed stay. */
function inputOf(intake: IntakeView): IntakeInput {
  const {
    name,
    sizeLimit,
    reply,
    replyText,
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
        <NumberField<IntakeInput> name="sizeLimit" label="Largest body, MB" per={1e6} />
        <ChoiceField<IntakeInput, ReplyKind> name="reply" label="Senders get" options={replies} />
      </div>
      {reply === 'answer' && (
        <div className="grid gap-x-6 gap-y-4 sm:grid-cols-[minmax(0,1fr)_12rem]">
          <LinesField<IntakeInput>
            name="replyText"
            label="What they are told of it"
            look="code"
            rows={2}
            placeholder={'{"message": "Your number is {ticket.number}."}'}
            hint="JSON or text; parts of the answer stand in braces, by their names with dots between. Left empty, all of the answer."
          />
          <NumberField<IntakeInput>
            name="replyWait"
            label="Seconds they wait"
            hint="After that they are told that it arrived."
          />
        </div>
      )}
      {(reply === 'page' || reply === 'redirect') && (
        <TextField<IntakeInput>
          name="replyText"
          label={reply === 'page' ? 'What the page says' : 'Where to'}
          placeholder={reply === 'page' ? 'Your answers have been received.' : 'https://…'}
        />
      )}
      <Verification stored={intake.verification} />
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-3">
        <ListField<IntakeInput>
          name="allowedAddresses"
          label="Only from addresses"
          hint="192.0.2.0/24, 198.51.100.7; empty for all."
          look="code"
        />
        <ListField<IntakeInput>
          name="allowedOrigins"
          label="Pages of these sites may post"
          hint="https://basin.example.org, or * for all; empty for none."
          look="code"
        />
        <NumberField<IntakeInput>
          name="sameWithin"
          label="The same bytes count once within, seconds"
          hint="0 for never. The builder’s own id with the same answers always does."
        />
      </div>
      <TickField<IntakeInput>
        name="takesPut"
        label="Take PUT and PATCH like POST"
        hint="Some builders send what was changed that way. What is not taken is shown among the arrivals."
      />
      <FileAccess stored={intake.fileAccess} />
      <NumberField<IntakeInput>
        name="keepDays"
        label="Days that what arrived is kept"
        hint="Empty for ever. Samples marked as kept stay, and what is not delivered yet."
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
      ask="Remove this intake…"
      deed="Remove"
      isBusy={remove.isPending}
      fault={remove.error && wordsFor(remove.error)}
      onDo={() => afterwards(remove.mutateAsync(undefined), () => void navigate('/intakes'))}
    >
      This removes {counted(intake.arrivals, 'arrival')} for good.
    </Confirm>
  );
}
