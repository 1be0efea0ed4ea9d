import type { ArrivalView, PinsPreview } from '@grammata/contract';
import { bodyReaders, isUnpinned, pinRoles, type PinRole, type PinSet } from '@grammata/core/decode';
import { useState } from 'react';
import { wordsFor } from '../../api';
import { Act, Choice, counted, Fault, Floating, Press, Radios, When } from '../../ui';
import { TextLesson } from './TextLesson';
import type { Pinning } from './usePinning';

const roleWords: Record<PinRole, { says: string; hint: string }> = {
  answers: { says: 'Answers', hint: 'Point at the object, list or text that holds all answers.' },
  label: { says: 'Question text', hint: 'Point at the question text inside any answer.' },
  value: { says: 'Answer value', hint: 'Point at the value inside any answer.' },
  key: { says: 'Question key', hint: 'Point at the key inside any answer.' },
  form: { says: 'Form ID', hint: 'Point at the value that differs from form to form.' },
  id: { says: 'Submission ID', hint: 'Point at the form builder’s ID.' },
  files: { says: 'File', hint: 'Point at the answer to a file question.' },
  time: { says: 'Submission time', hint: 'Point at the time or date.' },
  split: { says: 'List of submissions', hint: 'Point at the list, or at anything in it.' },
};

const bodies = [
  { value: '', label: 'automatic' },
  ...Object.entries(bodyReaders).map(([value, label]) => ({ value, label })),
];

const shown = (pointer: string) => pointer || 'the top';

/** Overruling the reading by pointing: choose what a place is, point at it in the structure, see what it does. */
export function PinColumn({ pinning }: { pinning: Pinning }) {
  const { role, refusal, pins } = pinning;
  return (
    <div className="pt-1">
      <Radios
        legend="Meaning of a place"
        name="role"
        className="space-y-0.5"
        value={role}
        onChange={pinning.choose}
        options={pinRoles.map(each => ({ value: each, label: roleWords[each].says }))}
      />
      <p className="mt-2 font-serif text-reading/5 text-ink-2">
        {roleWords[role].hint} <span aria-hidden>→</span>
      </p>
      {refusal && (
        <p role="alert" className="mt-1 text-crimson">
          ! {refusal}
        </p>
      )}
      <Choice
        label="Read the body as"
        className="mt-3"
        value={pins.media?.as ?? ''}
        options={bodies}
        onChange={as => pinning.readAs(as || null)}
      />
      <PinList pins={pins} onUnpin={pinning.unpin} />
      <Result pinning={pinning} />
      <p className="mt-4 text-small">
        <Act onClick={() => pinning.setMode('text')}>Mark values in running text</Act>
      </p>
    </div>
  );
}

/** The same for messages in running text: over the whole width, since the text has to be read. */
export function PinPanel({ pinning, arrival }: { pinning: Pinning; arrival: ArrivalView }) {
  return (
    <section aria-label="Correct the reading" className="border-b border-ink bg-raised px-4 pt-3 pb-4">
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h2>Mark values in text</h2>
        <Act onClick={() => pinning.setMode('places')}>Point at places</Act>
      </div>
      <TextLesson arrival={arrival} pins={pinning.pins} onLearned={pinning.set} />
      <PinList pins={pinning.pins} onUnpin={pinning.unpin} />
      <Result pinning={pinning} />
    </section>
  );
}

/** What the pins would do to everything recorded, and keeping them. */
function Result({ pinning }: { pinning: Pinning }) {
  const { whole, others, keep, isChanged } = pinning;
  return (
    <>
      {isChanged && <Preview pinning={pinning} />}
      {keep.error && <Fault>{wordsFor(keep.error)}</Fault>}
      <div className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <Press disabled={!isChanged || keep.isPending} onClick={pinning.store}>
          {isUnpinned(whole) && isChanged ? 'Remove and read again' : 'Save and read again'}
        </Press>
        <Press quiet onClick={pinning.close}>
          Cancel
        </Press>
      </div>
      {others > 0 && (
        <p className="mt-2 text-small text-ink-2">
          These pins apply to messages with this structure. {counted(others, 'other structure')} of messages{' '}
          {others === 1 ? 'has' : 'have'} pins of {others === 1 ? 'its' : 'their'} own.{' '}
          <Act onClick={pinning.letOthersGo}>Let {others === 1 ? 'it' : 'them'} go</Act>
        </p>
      )}
      <p className="mt-2 text-small text-ink-3">New submissions found become samples. Nothing is delivered again.</p>
    </>
  );
}

function PinList({ pins, onUnpin }: { pins: PinSet; onUnpin: (which: keyof PinSet) => void }) {
  const set = pinRoles.filter(role => pins[role] !== undefined);
  if (set.length === 0 && !pins.text) return null;
  return (
    <ul aria-label="Pins" className="mt-3 border-t border-rule">
      {set.map(role => (
        <li key={role} className="flex flex-wrap items-baseline gap-x-3 border-b border-rule py-1">
          <span className="basis-full text-small text-ink-2">{roleWords[role].says}</span>
          <code className="min-w-0 flex-1 font-mono text-small break-all text-lapis">
            {role === 'files' ? pins.files!.join(', ') : shown(pins[role]!)}
          </code>
          <Act onClick={() => onUnpin(role)} aria-label={`Remove pin: ${roleWords[role].says}`}>
            Remove
          </Act>
        </li>
      ))}
      {pins.text && (
        <li className="flex items-baseline gap-3 border-b border-rule py-1">
          <span className="text-small text-ink-2">Values by surrounding text</span>
          <span className="min-w-0 flex-1 truncate text-lapis">
            {pins.text.landmarks.map(each => each.label).join(', ')}
          </span>
          <Act onClick={() => onUnpin('text')} aria-label="Remove: values by surrounding text">
            Remove
          </Act>
        </li>
      )}
    </ul>
  );
}

function Preview({ pinning: { preview } }: { pinning: Pinning }) {
  const [open, setOpen] = useState(false);
  if (preview.error) return <Fault>{wordsFor(preview.error)}</Fault>;
  if (!preview.data) return <p className="mt-3 text-ink-2">Trying it on stored messages…</p>;
  const { looked, recorded, changed, missing, forms, rows } = preview.data;
  return (
    <div className="mt-3" aria-live="polite">
      <p className="font-serif text-reading/5">
        On {looked === recorded ? `all ${counted(looked, 'message')}` : `the newest ${looked} of ${recorded} messages`}:{' '}
        <b>{changed} read differently</b>, as {counted(forms, 'form')}
        {missing > 0 && (
          <>
            ; <b className="text-crimson">{missing} lack the pinned places</b> and are read as before
          </>
        )}
        . {rows.length > 0 && <Act onClick={() => setOpen(true)}>Show them</Act>}
      </p>
      <Floating open={open} onOpenChange={setOpen} title="Effect of the pins" isWide>
        <Changes rows={rows} />
      </Floating>
    </div>
  );
}

const Changes = ({ rows }: { rows: PinsPreview['rows'] }) => (
  <table className="mx-5 mb-4 w-[calc(100%-2.5rem)] table-fixed text-left align-top">
    <thead className="text-small text-ink-2">
      <tr>
        <th className="w-28 py-1.5 pr-4 font-semibold">Message</th>
        <th className="py-1.5 pr-4 font-semibold">Now</th>
        <th className="py-1.5 font-semibold">With these pins</th>
      </tr>
    </thead>
    <tbody>
      {rows.map(row => (
        <tr key={row.arrivalId} className="border-t border-rule align-top">
          <td className="py-1.5 pr-4 text-ink-2">
            <When at={row.receivedAt} />
          </td>
          <td className="py-1.5 pr-4">
            <Summary reading={row.before} />
          </td>
          <td className="py-1.5">
            {row.missing ? <span className="text-crimson">! {row.missing}</span> : <Summary reading={row.after} />}
          </td>
        </tr>
      ))}
    </tbody>
  </table>
);

function Summary({ reading: { submissions, form, answers } }: { reading: PinsPreview['rows'][number]['before'] }) {
  if (submissions === 0) return <span className="text-ink-3">nothing found</span>;
  return (
    <>
      <span className="block text-small text-ink-2">
        {counted(submissions, 'submission')}
        {form && ` of ${form}`}
      </span>
      {answers.map((each, index) => (
        <span key={index} className="block truncate text-small">
          <span className="text-lapis">{each.label}</span> <span className="font-mono">{each.value}</span>
        </span>
      ))}
    </>
  );
}
