import type { FormListed } from '@grammata/contract';
import { Link } from 'react-router';
import { wordsFor } from '../api';
import { Reading } from '../app/Read';
import { useForms, useRoutes } from '../lists';
import { counted, Empty, Fault, Moment, Note, Sheet } from '../ui';

const states: Record<Exclude<FormListed['state'], 'adopted'>, { words: string; colour: string }> = {
  new: { words: 'new', colour: 'text-ochre' },
  ignored: { words: 'ignored', colour: 'text-ink-3' },
};

/** Every form that submissions came from, those with the latest first. */
export function FormList() {
  const { data: forms, error, refetch } = useForms();
  const routes = useRoutes().data ?? [];
  const shown = forms?.toSorted((a, b) => (b.lastAt ?? '').localeCompare(a.lastAt ?? ''));
  return (
    <Sheet
      title="Forms"
      aside={
        <Note tone="goes">
          Grammata recognises forms in the messages it receives: their questions, their options, and how often each is
          answered.
        </Note>
      }
    >
      {error && <Fault again={() => void refetch()}>{wordsFor(error)}</Fault>}
      {!forms && !error && <Reading />}
      {forms?.length === 0 && (
        <Empty title="No forms yet">
          Send a submission to an{' '}
          <Link className="act" to="/intakes">
            intake
          </Link>{' '}
          and its form appears here.
        </Empty>
      )}
      {shown && shown.length > 0 && (
        <ul className="ledger mt-5 border-t border-ink">
          {shown.map(form => (
            <Row key={form.id} form={form} routes={routes.filter(route => route.formId === form.id).length} />
          ))}
        </ul>
      )}
    </Sheet>
  );
}

function Row({ form, routes }: { form: FormListed; routes: number }) {
  const state = form.state === 'adopted' ? null : states[form.state];
  return (
    <li>
      <Link
        to={`/forms/${form.id}`}
        className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-6 py-3 hover:bg-raised md:grid-cols-[minmax(0,1fr)_10rem_8rem]"
      >
        <span className="min-w-0">
          <span className="block truncate font-serif text-lead font-semibold">{form.name}</span>
          <span className="block truncate text-small text-ink-2">from {form.intakeName}</span>
        </span>
        <span className="max-md:hidden">
          <span className="block">{counted(form.submissions, 'submission')}</span>
          <span className="block text-small text-ink-2">
            {form.lastAt && (
              <>
                last <Moment at={form.lastAt} />
              </>
            )}
          </span>
        </span>
        <span className="text-right">
          <span className={`block ${routes === 0 ? 'text-ink-3' : ''}`}>
            {routes === 0 ? 'no route' : counted(routes, 'route')}
          </span>
          {state && <span className={`block text-small ${state.colour}`}>{state.words}</span>}
        </span>
      </Link>
    </li>
  );
}
