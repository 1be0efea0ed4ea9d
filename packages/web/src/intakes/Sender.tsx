import type { ArrivalView, IntakeView } from '@grammata/contract';
import { useState, type FormEvent } from 'react';
import { wordsFor } from '../api';
import { Act, bytes, Choice, Fault, FileAct, LinesBox, Press, TextBox } from '../ui';
import { useSend, useUpload } from './queries';

const examples = {
  'application/json':
    '{\n  "site": "Withy Bridge (AB-07)",\n  "sampled_at": "04/11/2026 7:55",\n  "signs": ["Foam", "Oil sheen"]\n}',
  'application/x-www-form-urlencoded': 'site=Withy+Bridge&ph=7.4&signs%5B%5D=Foam&signs%5B%5D=Litter',
  'text/plain': 'Site: Withy Bridge',
};
type Media = keyof typeof examples;

interface Message {
  method: 'POST' | 'GET';
  contentType: string;
  body: string;
  query: string;
}

/** The largest body that is taken over into the box, in characters. */
const MOST_TAKEN = 100_000;

const example: Message = {
  method: 'POST',
  contentType: 'application/json',
  body: examples['application/json'],
  query: 'site=AB-07&ph=7.4',
};

/** An arrival as a message to be sent once more; null where it is none that could be typed. */
function messageOf(arrival: ArrivalView | null): Message | null {
  if (!arrival) return null;
  if (arrival.method === 'GET') {
    const at = arrival.url.indexOf('?');
    return at < 0 ? null : { ...example, method: 'GET', query: arrival.url.slice(at + 1) };
  }
  if (!arrival.body || arrival.cut || arrival.body.length > MOST_TAKEN || !arrival.contentType) return null;
  if (/multipart|zip|octet-stream/i.test(arrival.contentType) || arrival.method !== 'POST') return null;
  return { ...example, contentType: arrival.contentType, body: arrival.body };
}

/** Sends a message to the intake over HTTP, like a builder would: the one that is shown, or one that is typed. */
export function Sender({
  intake,
  arrival,
  onSent,
}: {
  intake: IntakeView;
  /** The arrival that is shown: most try things with what came last. */
  arrival: ArrivalView | null;
  onSent: () => void;
}) {
  const [first] = useState(() => messageOf(arrival));
  const [{ method, contentType, body, query }, setMessage] = useState<Message>(first ?? example);
  const set = (part: Partial<Message>) => setMessage(before => ({ ...before, ...part }));
  const send = useSend(intake.id);
  const upload = useUpload(intake.id);
  const shown = messageOf(arrival);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate(
      { method, contentType, body: method === 'POST' ? body : '', query: method === 'GET' ? query : '' },
      { onSuccess: onSent },
    );
  };
  const chooseType = (type: string) =>
    // An example that nobody changed follows the type.
    set({
      contentType: type,
      ...(body === examples[contentType as Media] && { body: examples[type as Media] ?? body }),
    });
  const types = [...new Set([...Object.keys(examples), contentType])].map(value => ({ value, label: value }));
  return (
    <form onSubmit={submit} aria-label="Send a test" className="border-b border-rule bg-raised px-4 py-3">
      <div className="flex flex-wrap items-end gap-4">
        <Choice
          label="Method"
          className="w-24"
          value={method}
          onChange={next => set({ method: next })}
          options={{ POST: 'POST', GET: 'GET' }}
        />
        {method === 'POST' ? (
          <Choice
            label="Content-Type"
            className="w-72 max-w-full"
            look="code"
            value={contentType}
            onChange={chooseType}
            options={types}
          />
        ) : (
          <TextBox
            label="Query string"
            className="min-w-64 flex-1"
            look="code"
            value={query}
            onChange={next => set({ query: next })}
          />
        )}
        {shown && (shown.body !== body || shown.query !== query) && (
          <Act className="pb-1" onClick={() => setMessage(shown)}>
            Copy the message shown
          </Act>
        )}
        <span className="flex-1" />
        <span role="status" className="pb-1 text-ink-2">
          {send.data && `Answered ${send.data.status}.`}
        </span>
        <Press type="submit" disabled={send.isPending}>
          Send
        </Press>
      </div>
      {method === 'POST' && (
        <LinesBox
          label="Body"
          isBare
          className="mt-3"
          rows={Math.min(14, Math.max(4, body.split('\n').length))}
          value={body}
          onChange={next => set({ body: next })}
        />
      )}
      <p className="mt-3 text-ink-2">
        <FileAct disabled={upload.isPending} onFile={file => upload.mutate(file, { onSuccess: onSent })}>
          Upload past submissions
        </FileAct>{' '}
        {upload.isPending
          ? `Uploading ${upload.variables.name}, ${bytes(upload.variables.size)}…`
          : 'CSV, TSV, XLSX, JSON, NDJSON, HAR, XML or EML, up to 50 MB. They become samples and are not delivered.'}
      </p>
      {upload.error && <Fault>{wordsFor(upload.error)}</Fault>}
      {send.error && <Fault>{wordsFor(send.error)}</Fault>}
    </form>
  );
}
