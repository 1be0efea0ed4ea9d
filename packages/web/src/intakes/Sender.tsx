import type { IntakeView } from '@grammata/contract';
import { useState, type FormEvent } from 'react';
import { wordsFor } from '../app/api';
import { Fault, Labelled } from '../ui';
import { useSend, useUpload } from './queries';

const starts: Record<string, string> = {
  'application/json':
    '{\n  "site": "Withy Bridge (AB-07)",\n  "sampled_at": "04/11/2026 7:55",\n  "signs": ["Foam", "Oil sheen"]\n}',
  'application/x-www-form-urlencoded': 'site=Withy+Bridge&ph=7.4&signs%5B%5D=Foam&signs%5B%5D=Litter',
  'text/plain': 'Site: Withy Bridge',
};

/** Sends a message to the intake over HTTP, like a builder would. */
export function Sender({ intake, onSent }: { intake: IntakeView; onSent: () => void }) {
  const [method, setMethod] = useState('POST');
  const [contentType, setContentType] = useState('application/json');
  const [body, setBody] = useState(starts['application/json']!);
  const [query, setQuery] = useState('site=AB-07&ph=7.4');
  const send = useSend(intake.id);
  const upload = useUpload(intake.id);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send.mutate(
      { method, contentType, body: method === 'POST' ? body : '', query: method === 'GET' ? query : '' },
      { onSuccess: onSent },
    );
  };
  const chooseType = (type: string) => {
    if (body === starts[contentType]) setBody(starts[type] ?? body);
    setContentType(type);
  };
  return (
    <form onSubmit={submit} aria-label="Send one from here" className="border-b border-rule bg-raised px-4 py-3">
      <div className="flex flex-wrap items-end gap-4">
        <Labelled label="Method" className="w-24">
          {ids => (
            <select {...ids} className="write" value={method} onChange={event => setMethod(event.target.value)}>
              <option>POST</option>
              <option>GET</option>
            </select>
          )}
        </Labelled>
        {method === 'POST' ? (
          <Labelled label="Content-Type" className="w-72">
            {ids => (
              <select
                {...ids}
                className="write font-mono text-small"
                value={contentType}
                onChange={event => chooseType(event.target.value)}
              >
                {Object.keys(starts).map(type => (
                  <option key={type}>{type}</option>
                ))}
              </select>
            )}
          </Labelled>
        ) : (
          <Labelled label="Values after the ?" className="min-w-64 flex-1">
            {ids => (
              <input
                {...ids}
                className="write font-mono text-small"
                value={query}
                onChange={event => setQuery(event.target.value)}
              />
            )}
          </Labelled>
        )}
        <span className="flex-1" />
        <span role="status" className="text-ink-2">
          {send.data && `Answered ${send.data.status}.`}
        </span>
        <button className="press" disabled={send.isPending}>
          Send
        </button>
      </div>
      {method === 'POST' && (
        <textarea
          aria-label="Body"
          className="write mt-3 font-mono text-small"
          rows={Math.min(14, Math.max(4, body.split('\n').length))}
          value={body}
          onChange={event => setBody(event.target.value)}
          spellCheck={false}
        />
      )}
      <Labelled
        label="Or a file of past submissions"
        hint="CSV, TSV, XLSX, JSON, NDJSON, HAR, XML or EML, up to 50 MB. They become samples; they are not delivered."
        className="mt-3"
      >
        {ids => (
          <input
            {...ids}
            type="file"
            className="block file:mr-3 file:border-0 file:bg-transparent file:p-0 file:font-semibold file:text-oxide file:underline"
            disabled={upload.isPending}
            onChange={event => {
              const file = event.target.files?.[0];
              if (file) upload.mutate(file, { onSuccess: onSent });
            }}
          />
        )}
      </Labelled>
      {upload.error && <Fault>{wordsFor(upload.error)}</Fault>}
      {send.error && <Fault>{wordsFor(send.error)}</Fault>}
    </form>
  );
}
