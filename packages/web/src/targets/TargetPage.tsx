import type { TargetView } from '@grammata/contract';
import { Link, useNavigate, useParams } from 'react-router';
import { useParam } from '../address';
import { afterwards, wordsFor } from '../api';
import { Read } from '../app/Read';
import { useKeys } from '../app/keys';
import { Act, clock, Confirm, Moment, Note, Press, Sheet } from '../ui';
import { useProbe, useReadTarget, useRemoveTarget, useTarget, useTargetSettings } from './queries';
import { authWords } from './AuthFields';
import { ConsentNote } from './ConsentNote';
import { Operations } from './Operations';
import { TargetForm } from './TargetForm';

export function TargetPage() {
  const { id = '' } = useParams();
  const target = useTarget(id);
  return (
    <Read title="Target" query={target}>
      {data => <Loaded key={id} target={data} />}
    </Read>
  );
}

function Loaded({ target }: { target: TargetView }) {
  const [asked, ask] = useParam('change');
  const editing = asked === 'settings';
  const setEditing = (edits: boolean) => ask(edits ? 'settings' : null);
  const read = useReadTarget(target.id);
  useKeys([{ key: 't', does: 'test the connection', run: () => read.mutate(undefined) }]);
  const margin = (
    <>
      <ConsentNote target={target} />
      <Parked target={target} />
      <Verdict target={target} read={read} />
      <OtherServers target={target} onMoved={() => read.mutate(undefined)} />
      <Note tone="goes">
        Fields marked <b className="text-oxide">*</b> are required. Read-only fields can’t be set.
      </Note>
      <Removal target={target} />
    </>
  );
  return (
    <Sheet
      crumb={
        <Link to="/targets" className="hover:underline">
          Targets
        </Link>
      }
      title={target.name}
      aside={margin}
      actions={
        <Press quiet onClick={() => read.mutate(undefined)} disabled={read.isPending}>
          {read.isPending ? 'Reading…' : 'Test and read again'}
        </Press>
      }
    >
      <div className="mt-3 mb-3.5 flex flex-wrap items-baseline gap-x-3">
        <code className="border-b border-rule-strong py-0.5 font-mono break-all">{target.baseUrl}</code>
        <span className="text-ink-2">
          {target.reads === 'mail' ? (
            'mail server'
          ) : target.reads === 'files' ? (
            'files on this server'
          ) : target.reads === 'example' ? (
            'operations added by hand'
          ) : target.documentSize !== null ? (
            'from an uploaded document'
          ) : (
            <>
              {target.reads === 'openapi' ? 'OpenAPI document' : target.reads === 'graphql' ? 'GraphQL' : 'tables'} at{' '}
              <code className="font-mono">{target.discoveryPath}</code>
            </>
          )}{' '}
          · {credentialWords(target)}
        </span>
        <span className="flex-1" />
        <Act onClick={() => setEditing(!editing)} aria-expanded={editing}>
          Change
        </Act>
      </div>
      {editing && <Settings target={target} onDone={() => setEditing(false)} />}
      <Operations target={target} />
    </Sheet>
  );
}

/** The settings of a target, as they were when it was opened. */
function Settings({ target, onDone }: { target: TargetView; onDone: () => void }) {
  const change = useTargetSettings(target);
  return (
    <TargetForm
      initial={{
        name: target.name,
        baseUrl: target.baseUrl,
        reads: target.reads,
        discoveryPath: target.discoveryPath,
        auth: target.auth,
        document: target.document ?? (target.documentSize === null ? null : undefined),
        recipe: target.recipe,
        patience: target.patience,
        pace: target.pace,
        tryBaseUrl: target.tryBaseUrl,
        takesPersonal: target.takesPersonal,
        knowsKeys: target.knowsKeys,
        takesNames: target.takesNames,
      }}
      targetId={target.id}
      hasToken={target.hasToken}
      keptSize={target.document === null ? target.documentSize : null}
      keptAs={`target.${target.id}`}
      deed="Save and read"
      save={async (_, changed) => {
        await change.mutateAsync(changed);
        onDone();
      }}
      onCancel={onDone}
    />
  );
}

/** What credentials a target has, in words. */
function credentialWords({ hasToken, reads, auth }: TargetView): string {
  if (!hasToken && auth.kind !== 'consent') return 'no credentials';
  return `credentials: ${reads === 'mail' ? 'user and password' : authWords[auth.kind].words}`;
}

/** Why it is left alone at the moment, and a way to have it asked again. */
function Parked({ target: { id, parked } }: { target: TargetView }) {
  const probe = useProbe(id);
  if (!parked) return null;
  return (
    <Note tone="trouble">
      Paused after repeated failures <Moment at={parked.since} />. {parked.reason} Deliveries are waiting. One test
      request is sent at <b>{clock(parked.until)}</b>; if it succeeds, the others follow.{' '}
      <Act onClick={() => probe.mutate(undefined)} disabled={probe.isPending}>
        Test now
      </Act>
    </Note>
  );
}

/** How the last test went: the words of the target's answer, and what to do. */
function Verdict({ target, read }: { target: TargetView; read: ReturnType<typeof useReadTarget> }) {
  if (read.isPending) return <Note tone="look">Reading its operations…</Note>;
  if (read.error) return <Note tone="trouble">{wordsFor(read.error)}</Note>;
  if (read.data)
    return (
      <div role="status">
        <Note tone={!read.data.ok ? 'trouble' : read.data.isUntested ? 'look' : 'fine'}>
          {read.data.verdict} {read.data.advice}
        </Note>
      </div>
    );
  if (target.fault)
    return (
      <Note tone="trouble">
        {target.fault} {target.operations.length > 0 && 'The previous operations are kept.'}
      </Note>
    );
  return (
    <Note tone="fine">
      {target.readAt ? (
        <>
          Read <Moment at={target.readAt} />.
        </>
      ) : (
        'Never read.'
      )}
    </Note>
  );
}

/** Base addresses that the document names in place of the target’s. */
function OtherServers({ target, onMoved }: { target: TargetView; onMoved: () => void }) {
  const { servers } = target;
  const change = useTargetSettings(target);
  // The document stays where it is, whatever the base address is from now on.
  const documentAt = /^https?:/i.test(target.discoveryPath)
    ? target.discoveryPath
    : target.baseUrl.replace(/\/$/, '') + target.discoveryPath;
  if (servers.length === 0) return null;
  return (
    <Note tone="look">
      The document names {servers.length === 1 ? 'another base address' : 'other base addresses'}:
      {servers.map(each => (
        <span key={each} className="block">
          <code className="font-mono break-all">{each}</code>{' '}
          <Act
            aria-label={`Use ${each}`}
            disabled={change.isPending}
            onClick={() => afterwards(change.mutateAsync({ baseUrl: each, discoveryPath: documentAt }), onMoved)}
          >
            Use it
          </Act>
        </span>
      ))}
      {change.error && <span role="alert">{wordsFor(change.error)}</span>}
    </Note>
  );
}

function Removal({ target }: { target: TargetView }) {
  const remove = useRemoveTarget(target.id);
  const navigate = useNavigate();
  return (
    <p className="pl-4">
      <Confirm
        ask="Remove target…"
        deed="Remove"
        isBusy={remove.isPending}
        fault={remove.error && wordsFor(remove.error)}
        onDo={() => afterwards(remove.mutateAsync(undefined), () => void navigate('/targets'))}
      >
        Its address and credentials are removed permanently.
      </Confirm>
    </p>
  );
}
