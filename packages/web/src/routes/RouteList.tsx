import type { RouteSummary } from '@grammata/contract';
import { useState, type FormEvent } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { wordsFor } from '../app/api';
import { useKeys } from '../app/keys';
import { useTargets } from '../targets/queries';
import { count, Empty, Fault, Labelled, Moment, Note, Press, RouteStateWord, Sheet } from '../ui';
import { OperationPick } from './calls/OperationPick';
import { useCreateRoute, useForms, useRoutes } from './queries';

export function RouteList() {
  const { data: routes, error, refetch } = useRoutes();
  const [params, setParams] = useSearchParams();
  const making = params.has('new');
  const make = (is: boolean) => setParams(is ? { new: '' } : {});
  useKeys([{ key: 'n', does: 'start a new route', run: () => make(true) }]);
  return (
    <Sheet
      title="Routes"
      aside={
        <Note tone="goes">
          A route takes a form’s submissions to a target: which of them go, what is sent, and how.
        </Note>
      }
      actions={!making && <Press onClick={() => make(true)}>New route</Press>}
    >
      {making && <NewRoute formId={params.get('form') ?? ''} onCancel={() => make(false)} />}
      {error && <Fault again={() => void refetch()}>{wordsFor(error)}</Fault>}
      {routes?.length === 0 && !making && (
        <Empty title="No route yet.">
          It needs a form that was seen and a target that was read. Then it maps the one onto the other.
        </Empty>
      )}
      {routes && routes.length > 0 && (
        <ul className="ledger mt-5 border-t border-ink">
          {routes.map(route => (
            <Row key={route.id} route={route} />
          ))}
        </ul>
      )}
    </Sheet>
  );
}

const Row = ({ route }: { route: RouteSummary }) => (
  <li>
    <Link
      to={`/routes/${route.id}`}
      className="grid grid-cols-[minmax(0,1fr)_6rem] gap-x-6 py-3 hover:bg-raised md:grid-cols-[minmax(0,1fr)_11rem_12rem]"
    >
      <span className="min-w-0">
        <span className="block truncate font-serif text-lead font-semibold">{route.name}</span>
        <span className="block truncate text-ink-2">
          {route.formName} <span aria-hidden>→</span> {route.targetName}: {route.operationLabel}
        </span>
      </span>
      <span>
        <RouteStateWord state={route.state} />
        <span className="block text-small text-ink-2">
          {route.version === null ? (
            'never live'
          ) : (
            <>
              version {route.version}
              {route.changed && ', edited since'}
            </>
          )}
        </span>
      </span>
      <span className="text-right max-md:hidden">
        <span className="block">{count(route.delivered)} delivered</span>
        <span className="block text-small text-ink-2">
          {route.dead > 0 && <span className="text-crimson">{count(route.dead)} in trouble · </span>}
          {route.liveSince ? (
            <>
              live since <Moment at={route.liveSince} />
            </>
          ) : (
            `${count(route.waiting)} waiting`
          )}
        </span>
      </span>
    </Link>
  </li>
);

function NewRoute({ formId: givenForm, onCancel }: { formId: string; onCancel: () => void }) {
  const forms = (useForms().data ?? []).filter(each => each.state !== 'ignored');
  const targets = useTargets().data ?? [];
  const [formId, setFormId] = useState(givenForm);
  const [where, setWhere] = useState('');
  const [name, setName] = useState<string | null>(null);
  const create = useCreateRoute();
  const navigate = useNavigate();
  const form = forms.find(each => each.id === formId);
  const [targetId = '', operationId = ''] = where.split('\n');
  const target = targets.find(each => each.id === targetId);
  const proposed = form && target ? `${form.name} to ${target.name}` : '';
  const submit = (event: FormEvent) => {
    event.preventDefault();
    create.mutate(
      { name: name || proposed, formId, targetId, operationId },
      { onSuccess: route => void navigate(`/routes/${route.id}/what`) },
    );
  };
  const lacking =
    forms.length === 0
      ? 'No form was seen yet: have one submission sent to an intake first.'
      : targets.every(each => each.operations.length === 0)
        ? 'No target was read yet: add one first.'
        : null;
  if (lacking) return <Fault>{lacking}</Fault>;
  return (
    <form onSubmit={submit} aria-label="New route" className="mt-5 space-y-4 border-y border-ink bg-raised px-4 py-4">
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-2">
        <Labelled label="From the form">
          {ids => (
            <select
              {...ids}
              className="write"
              value={formId}
              onChange={event => setFormId(event.target.value)}
              required
              autoFocus
            >
              <option value="">pick a form…</option>
              {forms.map(each => (
                <option key={each.id} value={each.id}>
                  {each.name}, at {each.intakeName} ({count(each.submissions)})
                </option>
              ))}
            </select>
          )}
        </Labelled>
        <Labelled label="To the target">
          {ids => <OperationPick ids={ids} targets={targets} value={where} onPick={setWhere} />}
        </Labelled>
      </div>
      <Labelled label="Name" hint="So that it can be found again.">
        {ids => (
          <input
            {...ids}
            className="write font-serif text-lead"
            value={name ?? proposed}
            onChange={event => setName(event.target.value)}
            maxLength={120}
            required
          />
        )}
      </Labelled>
      {create.error && <Fault>{wordsFor(create.error)}</Fault>}
      <div className="flex gap-4">
        <button className="press" disabled={create.isPending}>
          Start mapping
        </button>
        <Press quiet onClick={onCancel}>
          Cancel
        </Press>
      </div>
    </form>
  );
}
