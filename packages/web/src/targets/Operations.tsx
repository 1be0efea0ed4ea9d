import type { OperationHead, TargetView } from '@grammata/contract';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { wordsFor } from '../api';
import { Act, counted, Fault, FileAct, LinesBox, Press, TextBox } from '../ui';
import { Fields } from './Fields';
import { useAddExamples, useFromSource, useOperation } from './queries';

/** Up to so many operations all show their fields at once. */
const FEW = 8;
/** Operations that are listed at once; search finds the others. */
const MOST_SHOWN = 60;

/** The operations of a target; search finds those not listed. */
export function Operations({ target }: { target: TargetView }) {
  const { operations } = target;
  const [search, setSearch] = useState('');
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = operations.filter(({ label, method, path }) => {
    const text = `${label} ${method} ${path}`.toLowerCase();
    return words.every(word => text.includes(word));
  });
  const isFixed = target.reads === 'mail' || target.reads === 'files';
  return (
    <>
      {operations.length > FEW && (
        <TextBox
          label={`Search ${counted(operations.length, 'operation')}`}
          className="mt-5 w-96 max-w-full"
          type="search"
          placeholder="name, method or path"
          value={search}
          onChange={setSearch}
        />
      )}
      {operations.length > 0 && found.length === 0 && (
        <p role="status" className="pt-4 font-serif text-ink-2">
          No matching operation.
        </p>
      )}
      {found.slice(0, MOST_SHOWN).map(head => (
        <Offered key={head.id} target={target} head={head} opens={operations.length <= FEW} />
      ))}
      {found.length > MOST_SHOWN && (
        <p className="border-t border-rule pt-3 font-serif text-ink-2">
          {counted(found.length - MOST_SHOWN, 'more operation')}: search to find{' '}
          {found.length - MOST_SHOWN === 1 ? 'it' : 'them'}.
        </p>
      )}
      {!isFixed && <More target={target} />}
    </>
  );
}

function Offered({ target, head, opens }: { target: TargetView; head: OperationHead; opens: boolean }) {
  const [isOpen, setOpen] = useState(opens);
  const whole = useOperation(target.id, isOpen ? head.id : null);
  const isOnWire = head.path.startsWith('/') && head.body !== 'mail';
  const isFixed = target.reads === 'mail' || target.reads === 'files';
  return (
    <section aria-label={head.label} className={opens ? 'mt-7' : 'mt-0'}>
      <h2
        className={`flex flex-wrap items-baseline gap-x-3 border-b py-1.5 ${isOpen ? 'border-ink' : 'border-rule font-normal'}`}
      >
        <button
          type="button"
          className="min-w-0 text-left hover:underline"
          aria-expanded={isOpen}
          onClick={() => setOpen(!isOpen)}
        >
          {head.label}
        </button>
        {head.own && (
          <span className="text-small font-normal text-ink-2">
            {head.own === 'added' ? 'added by hand' : 'edited by hand'}
          </span>
        )}
        <span className="flex-1" />
        <code className="font-mono text-small font-normal break-all text-ink-3">
          {isOnWire && `${head.method} ${head.path} · `}
          {counted(head.fields, 'field')}
        </code>
        {!isFixed && (
          <Link
            className="act font-sans text-small"
            aria-label={`Edit ${head.label}`}
            to={`/targets/${target.id}/operation?id=${encodeURIComponent(head.id)}`}
          >
            Edit
          </Link>
        )}
      </h2>
      {isOpen && whole.error && <Fault again={() => void whole.refetch()}>{wordsFor(whole.error)}</Fault>}
      {isOpen && whole.data && <Fields fields={whole.data.operation.fields} />}
    </section>
  );
}

/** Adding operations by hand or from examples, and taking back what was taken away. */
function More({ target }: { target: TargetView }) {
  const navigate = useNavigate();
  const restore = useFromSource(target.id);
  const add = useAddExamples(target.id);
  const [text, setText] = useState<string | null>(null);
  return (
    <div className="mt-7">
      <p>
        <Link className="act" to={`/targets/${target.id}/operation`}>
          Add operation
        </Link>
        {text === null && (
          <Act className="ml-5" onClick={() => setText('')}>
            Add from examples
          </Act>
        )}
      </p>
      {text !== null && (
        <form
          aria-label="Add from examples"
          className="mt-3 border-y border-ink bg-raised px-4 py-4"
          onSubmit={event => {
            event.preventDefault();
            add.mutate(text, {
              onSuccess: ([first, ...others]) => {
                setText(null);
                if (first && others.length === 0)
                  void navigate(`/targets/${target.id}/operation?id=${encodeURIComponent(first.operation.id)}`);
              },
            });
          }}
        >
          <LinesBox
            label="Examples"
            hint="Curl commands, a HAR file, or a record in JSON. Nothing is sent, and secrets are removed."
            look="code"
            rows={6}
            autoFocus
            value={text}
            onChange={setText}
            placeholder={'curl -X PATCH https://…/contacts/42 --json \'{"name": "…"}\''}
          />
          <p className="mt-1 text-small">
            <FileAct accept=".har,.json,.txt" onFile={file => void file.text().then(setText)}>
              Open file…
            </FileAct>
          </p>
          {add.error && <Fault>{wordsFor(add.error)}</Fault>}
          <div className="mt-3 flex gap-4">
            <Press type="submit" disabled={add.isPending || text.trim() === ''}>
              Add operations
            </Press>
            <Press quiet onClick={() => setText(null)}>
              Cancel
            </Press>
          </div>
        </form>
      )}
      {target.takenAway.map(({ id, label }) => (
        <p key={id} className="pt-2 text-ink-2">
          “{label}” was removed.{' '}
          <Act onClick={() => restore.mutate(id)} disabled={restore.isPending}>
            Undo
          </Act>
        </p>
      ))}
    </div>
  );
}
