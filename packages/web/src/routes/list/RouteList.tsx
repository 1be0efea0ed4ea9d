import { useForms, useOffered, useRoutes } from '../../lists';
import { RouteInput, type FormListed, type RouteSummary, type OfferedView } from '@grammata/contract';
import { useWatch } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { useAddress } from '../../address';
import { wordsFor } from '../../api';
import { useKeys } from '../../app/keys';
import { Reading } from '../../app/Read';

import { Act, count, counted, Empty, Fault, Moment, Note, Press, RouteStateWord, Sheet } from '../../ui';
import { InputForm, PickField, TextField, useInput } from '../../ui/form';
import { OperationPick } from '../calls/OperationPick';
import { useCreateRoute } from '../queries';

export function RouteList() {
  const { data: routes, error, refetch } = useRoutes();
  const [params, put] = useAddress();
  const making = params.has('new');
  const make = (is: boolean) => put({ new: is ? '' : null, form: null });
  useKeys([{ key: 'n', does: 'new route', run: () => make(true) }]);
  return (
    <Sheet
      title="Routes"
      aside={
        <Note tone="goes">
          A route delivers a form’s submissions to a target: filter, mapping and delivery settings.
        </Note>
      }
      actions={
        !making && (
          <>
            <Link className="act" to="/workspace">
              Export or import
            </Link>
            <Press onClick={() => make(true)}>New route</Press>
          </>
        )
      }
    >
      {making && <NewRoute formId={params.get('form') ?? ''} onCancel={() => make(false)} />}
      {error && <Fault again={() => void refetch()}>{wordsFor(error)}</Fault>}
      {routes?.length === 0 && !making && (
        <Empty title="No routes yet">A route needs a form that has a submission, and a target.</Empty>
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
              {route.changed && ', edited'}
            </>
          )}
        </span>
      </span>
      <span className="text-right max-md:hidden">
        <span className="block">{count(route.delivered)} delivered</span>
        <span className="block text-small text-ink-2">
          {route.dead > 0 && <span className="text-crimson">{count(route.dead)} need attention · </span>}
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
  const forms = useForms();
  const targets = useOffered();
  const error = forms.error ?? targets.error;
  if (error)
    return <Fault again={() => void Promise.all([forms.refetch(), targets.refetch()])}>{wordsFor(error)}</Fault>;
  if (!forms.data || !targets.data) return <Reading />;
  const taken = forms.data.filter(each => each.state !== 'ignored');
  const lacking =
    taken.length === 0
      ? 'No form yet. Send a submission to an intake first.'
      : targets.data.every(each => each.operations.length === 0)
        ? 'No target yet. Add one first.'
        : null;
  if (lacking)
    return (
      <Empty title="Not ready">
        {lacking} <Act onClick={onCancel}>Close</Act>
      </Empty>
    );
  return <NewRouteForm forms={taken} targets={targets.data} givenForm={givenForm} onCancel={onCancel} />;
}

function NewRouteForm({
  forms,
  targets,
  givenForm,
  onCancel,
}: {
  forms: FormListed[];
  targets: OfferedView[];
  givenForm: string;
  onCancel: () => void;
}) {
  const create = useCreateRoute();
  const navigate = useNavigate();
  const of = useInput({
    input: RouteInput,
    values: { ...new RouteInput(), formId: givenForm },
    keptAs: 'route.new',
    save: async input => navigate(`/routes/${(await create.mutateAsync(input)).id}/mapping`),
  });
  const { control, setValue, getValues, getFieldState, formState } = of.form;
  const [targetId, operationId] = useWatch({ control, name: ['targetId', 'operationId'] });
  /** A name that nobody changed follows what is picked. */
  const nameIt = () => {
    const { formId, targetId: to } = getValues();
    const [form, target] = [forms.find(each => each.id === formId), targets.find(each => each.id === to)];
    if (form && target && !getFieldState('name', formState).isDirty)
      of.form.resetField('name', { defaultValue: `${form.name} to ${target.name}` });
  };
  return (
    <InputForm
      of={of}
      label="New route"
      deed="Create route"
      onCancel={onCancel}
      className="mt-5 space-y-4 border-y border-ink bg-raised px-4 py-4"
    >
      <div className="grid gap-x-6 gap-y-4 sm:grid-cols-2">
        <PickField<RouteInput>
          name="formId"
          label="Form"
          placeholder="choose a form…"
          options={forms.map(each => ({
            value: each.id,
            label: each.name,
            words: each.intakeName,
            detail: `${each.intakeName}, ${counted(each.submissions, 'submission')}`,
          }))}
          onPick={nameIt}
          autoFocus
        />
        <OperationPick
          label="Target"
          error={formState.errors.operationId?.message ?? null}
          targets={targets}
          value={operationId === '' ? '' : `${targetId}\n${operationId}`}
          onPick={where => {
            const [target = '', operation = ''] = where.split('\n');
            setValue('targetId', target, { shouldDirty: true });
            setValue('operationId', operation, { shouldDirty: true, shouldValidate: formState.isSubmitted });
            nameIt();
          }}
        />
      </div>
      <TextField<RouteInput> name="name" label="Name" look="lead" maxLength={120} />
    </InputForm>
  );
}
