import type { DeskView, FormListed, IntakeView, RouteView } from '@grammata/contract';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useAddress, type Put } from '../../address';
import { Read, Reading } from '../../app/Read';
import { useForms, useIntakes } from '../../lists';
import { ProofsOf } from '../../routes/proofs/useProofs';
import { useRoute } from '../../routes/queries';
import { WorkbenchOf } from '../../routes/workbench';
import { Act, CopyAct, counted, When } from '../../ui';
import { Check, GoLive, MapStep } from './RouteSteps';
import { ReadMessage } from './ReadMessage';
import { Receive } from './Receive';
import { ChooseTarget } from './ChooseTarget';
import { isPassed, stepAt, steps, type Progress, type Step } from './steps';

/** From an empty installation to the first delivered record, on one page: each step is done in place, with the controls of its own place. */
export function Guide({ desk, onLeave }: { desk: DeskView; onLeave: () => void }) {
  const intakes = useIntakes();
  const forms = useForms();
  return (
    <Read title="Connect your first form" query={intakes}>
      {all => (
        <Read title="Connect your first form" query={forms}>
          {known => <Connecting desk={desk} intakes={all} forms={known} onLeave={onLeave} />}
        </Read>
      )}
    </Read>
  );
}

function Connecting({
  desk,
  intakes,
  forms,
  onLeave,
}: {
  desk: DeskView;
  intakes: IntakeView[];
  forms: FormListed[];
  onLeave: () => void;
}) {
  const [params, put] = useAddress();
  const alone = intakes.length === 1 ? intakes[0] : undefined;
  const intake = intakes.find(each => each.id === params.get('intake')) ?? alone ?? null;
  const ofIntake = forms.filter(each => each.intakeId === intake?.id && each.state !== 'ignored');
  const form = ofIntake.find(each => each.id === params.get('form')) ?? ofIntake[0] ?? null;
  const wanted = params.get('route') ?? (desk.routes.length === 1 ? desk.routes[0]!.id : '');
  const read = useRoute(wanted);
  const route = read.data ?? null;
  const isItsRoute = route !== null && form !== null && route.formId === form.id;
  const progress = {
    messages: intake?.arrivals ?? 0,
    hasForm: form !== null,
    hasRoute: isItsRoute,
    isLive: isItsRoute && route.state === 'live',
  };
  const step = stepAt(params.get('step'), progress);
  // From the first step on it stands in the address what is being connected: what comes later does not take its place.
  const go = (next: Step, more: Put = {}) =>
    put({
      guide: '',
      step: next,
      intake: intake?.id ?? null,
      form: form?.id ?? null,
      route: isItsRoute ? route.id : null,
      ...more,
    });
  if (wanted !== '' && read.isPending) return <Reading />;
  const page = (
    <Steps
      {...{ intake, form, step, progress, go, onLeave }}
      forms={ofIntake}
      route={isItsRoute ? route : null}
      intakes={intakes}
      onIntake={id => put({ guide: '', intake: id })}
      onForm={id => put({ guide: '', form: id })}
      onRoute={id => go('map', { route: id })}
    />
  );
  // Kept over the steps that share it: an edit that is not stored yet goes along.
  return isItsRoute ? (
    <WorkbenchOf key={route.id} route={route}>
      <ProofsOf>{page}</ProofsOf>
    </WorkbenchOf>
  ) : (
    page
  );
}

interface At {
  intake: IntakeView | null;
  form: FormListed | null;
  route: RouteView | null;
  intakes: IntakeView[];
  /** Those of the intake. */
  forms: FormListed[];
  step: Step;
  progress: Progress;
  go: (step: Step) => void;
  onIntake: (id: string) => void;
  onForm: (id: string) => void;
  onRoute: (id: string) => void;
  onLeave: () => void;
}

function Steps({ intake, form, route, intakes, forms, step, progress, go, onIntake, onForm, onRoute, onLeave }: At) {
  const isLive = route?.state === 'live';
  const to = route ? [...new Set(route.targets.map(each => each.name))].join(', ') : null;
  const received = form?.submissions ?? 0;
  const done: Record<Step, ReactNode> = {
    receive: intake && intake.arrivals > 0 && (
      <>
        {counted(intake.arrivals, 'message')} at <b className="font-semibold">{intake.name}</b>
        {intake.lastArrivalAt && (
          <>
            , last <When at={intake.lastArrivalAt} />
          </>
        )}
        <code className="ml-6 font-mono text-ink-2 max-xl:hidden">{intake.address}</code>{' '}
        <CopyAct className="max-xl:hidden" text={intake.address} label="Copy the address" />
      </>
    ),
    read: form && (
      <>
        <b className="font-semibold">{form.name}</b>: {counted(received, 'submission')} read
      </>
    ),
    map: route && (
      <>
        {counted(route.draft.calls.flatMap(each => each.lines).filter(each => each.source).length, 'line')} to{' '}
        <b className="font-semibold">{to}</b>
      </>
    ),
    check: isLive && <>Published as version {route.version}</>,
    live: isLive && <>Live</>,
  };
  const later: Record<Step, string> = {
    receive: 'Creates an address that your form builder sends submissions to.',
    read: 'Shows the questions and answers found in the message.',
    map: 'Chooses a target and the value of each of its fields.',
    check: `Shows the requests of ${received > 1 ? `the ${counted(received, 'submission')}` : 'your submission'}, without sending them.`,
    live: `Delivers each new submission${to ? ` to ${to}` : ''}. Earlier ones are sent only if you choose so.`,
  };
  const links: Partial<Record<Step, ReactNode>> = {
    receive: intake && (
      <Link className="act quiet" to={`/intakes/${intake.id}`}>
        Open intake
      </Link>
    ),
    read: form && (
      <Link className="act quiet" to={`/forms/${form.id}`}>
        Open form
      </Link>
    ),
    map: route && (
      <Link className="act quiet" to={`/routes/${route.id}/mapping`}>
        Open route
      </Link>
    ),
  };
  const content: Record<Step, () => ReactNode> = {
    receive: () => <Receive intake={intake} intakes={intakes} onIntake={onIntake} onNext={() => go('read')} />,
    read: () => <ReadMessage {...{ intake, form, forms, onForm }} onNext={() => go('map')} />,
    map: () =>
      route ? <MapStep onNext={() => go('check')} /> : form && <ChooseTarget form={form} onRoute={onRoute} />,
    check: () => <Check onNext={() => go('live')} />,
    live: () => <GoLive onBack={() => go('check')} onLeave={onLeave} />,
  };
  return (
    <main className="min-w-0 pb-12">
      <div className="flex flex-wrap items-baseline gap-x-4 px-6 pt-4 pb-2 max-sm:px-4">
        <h1>Connect your first form</h1>
        <p className="flex-1 font-serif text-ink-2">{isLive ? '' : 'Nothing is sent until you say so.'}</p>
        <Act className="quiet" onClick={onLeave}>
          Leave the guide
        </Act>
      </div>
      <ol className="border-t border-ink">
        {steps.map((name, index) => {
          const isOpen = name === step;
          const isDone = isPassed(name, step, progress);
          return (
            <li
              key={name}
              aria-current={isOpen ? 'step' : undefined}
              className={isOpen ? 'border-b border-ink bg-raised' : 'border-b border-rule'}
            >
              <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 px-6 py-2 max-sm:px-4">
                <span aria-hidden className="w-3 text-verdigris">
                  {isDone ? '✓' : ''}
                </span>
                <h2 className="flex w-28 items-baseline gap-4">
                  <span className={`font-normal ${isOpen ? 'text-oxide' : 'text-ink-2'}`}>{index + 1}</span>
                  {isDone && name !== 'live' ? (
                    <button type="button" className="hover:underline" onClick={() => go(name)}>
                      {names[name]}
                    </button>
                  ) : (
                    <span className={isOpen || isDone ? '' : 'font-normal text-ink-2'}>{names[name]}</span>
                  )}
                  {isDone && <span className="sr-only">, done</span>}
                </h2>
                <span className={`min-w-0 flex-1 basis-64 ${isDone ? '' : 'font-serif text-ink-2'}`}>
                  {(isDone && done[name]) || later[name]}
                </span>
                {(isDone || isOpen) && links[name]}
              </div>
              {isOpen && content[name]()}
            </li>
          );
        })}
      </ol>
    </main>
  );
}

const names: Record<Step, string> = { receive: 'Receive', read: 'Read', map: 'Map', check: 'Check', live: 'Go live' };
