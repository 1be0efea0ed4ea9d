import type { FormView, NamedSample } from '@grammata/contract';
import { variantIdeas } from '@grammata/core/variant';
import { wordsFor } from '../api';
import { Act, Fault } from '../ui';
import { useStoreVariant } from './queries';

/** Variants that people try by hand before they trust a mapping, ready to be added to the samples. */
export function Ideas({ form, samples }: { form: FormView; samples: NamedSample[] }) {
  const store = useStoreVariant(form.id);
  // The fullest of the newest: most can be varied in it.
  const [base] = samples
    .filter(each => !each.isVariant)
    .slice(0, 100)
    .sort((a, b) => b.submission.fields.length - a.submission.fields.length);
  const ideas = base ? variantIdeas(base.submission, form.schema) : [];
  const taken = new Set(samples.filter(each => each.isVariant).map(each => each.name));
  const open = ideas.filter(idea => !taken.has(idea.name));
  if (open.length === 0) return null;
  const add = (all: typeof open) => all.forEach(({ name, submission }) => store.mutate({ name, submission }));
  return (
    <section aria-label="Suggested variants" className="mt-8">
      <h2 className="flex items-baseline justify-between border-b border-ink pb-1.5">
        Suggested variants
        <Act className="font-sans text-small" onClick={() => add(open)} disabled={store.isPending}>
          Add all {open.length}
        </Act>
      </h2>
      <ul className="ledger grid sm:grid-cols-2 sm:gap-x-8">
        {open.map(idea => (
          <li key={idea.id} className="flex items-baseline gap-3 py-1.5">
            <span className="min-w-0 flex-1">
              <b className="font-semibold">{idea.name}</b> <span className="text-ink-2">{idea.why}</span>
            </span>
            <Act onClick={() => add([idea])} aria-label={`Add the variant: ${idea.name}`}>
              Add
            </Act>
          </li>
        ))}
      </ul>
      {store.error && <Fault>{wordsFor(store.error)}</Fault>}
    </section>
  );
}
