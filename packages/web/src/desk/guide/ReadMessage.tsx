import type { FormListed, IntakeView } from '@grammata/contract';
import { Link } from 'react-router';
import { useArrival, useArrivals } from '../../intakes/queries';
import { asText } from '@grammata/core/submission';
import { Choice, Press } from '../../ui';

/** Questions and answers of the newest message, and where a wrong reading is corrected. */
export function ReadMessage({
  intake,
  form,
  forms,
  onForm,
  onNext,
}: {
  intake: IntakeView | null;
  form: FormListed | null;
  /** Those of the intake: with several, one is chosen. */
  forms: FormListed[];
  onForm: (id: string) => void;
  onNext: () => void;
}) {
  const { data: arrivals } = useArrivals(intake?.id ?? '');
  const newest = arrivals?.find(each => each.formId === form?.id && form !== null) ?? arrivals?.[0] ?? null;
  const { data: arrival } = useArrival(newest?.id ?? null);
  const [first] = arrival?.decoded ?? [];
  return (
    <div className="px-6 pb-4 max-sm:px-4 md:pl-[180px]">
      {form && forms.length > 1 && (
        <Choice
          label="Form"
          className="mb-3 sm:w-1/2"
          value={form.id}
          options={forms.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={onForm}
        />
      )}
      {arrival && (
        <>
          <p className="flex flex-wrap items-baseline gap-x-4">
            <span className={arrival.isSure && arrival.trouble === null ? 'text-verdigris' : 'text-ochre'}>
              {arrival.trouble !== null
                ? `! ${arrival.trouble}`
                : `${arrival.isSure ? '✓' : '? Check this:'} Read as ${arrival.envelope?.label ?? arrival.media ?? 'answers'}`}
            </span>
            <Link className="act" to={`/intakes/${arrival.intakeId}?arrival=${arrival.id}`}>
              Correct…
            </Link>
          </p>
          {first && (
            <dl className="mt-2 max-h-72 overflow-auto border-t border-rule" tabIndex={0} aria-label="Answers">
              {first.fields.map(({ key, label, value }) => (
                <div key={key} className="grid gap-x-4 border-b border-rule py-1 sm:grid-cols-[16rem_minmax(0,1fr)]">
                  <dt className="text-lapis">{label}</dt>
                  <dd className="truncate font-mono">{asText(value)}</dd>
                </div>
              ))}
            </dl>
          )}
        </>
      )}
      <p className="mt-3">
        <Press onClick={onNext} disabled={form === null}>
          Continue to Map
        </Press>
      </p>
    </div>
  );
}
