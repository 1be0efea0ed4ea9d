import type { CallInput } from '@grammata/contract';
import { propose } from '@grammata/core/match';
import type { Sample } from '@grammata/core/rehearse';
import type { FormSchema } from '@grammata/core/schema';
import { referenceLabel, referenceOf } from '@grammata/core/scope';
import { useCallback, useMemo } from 'react';
import { useSame } from './useSame';
import { answerReferences, itemReferences, referencesOf } from './references';
import type { CallAtHand, Offers } from './workbench';

/** What a line can draw on, by its name, and what is proposed for each field. */
export function useOffers(
  schema: FormSchema,
  calls: CallInput[],
  { call: { repeat }, callAt, operation, operationOf }: CallAtHand,
  newest: Sample[],
): Offers {
  // Edits of this call and later ones change nothing of it.
  const earlier = useSame(calls.slice(0, callAt));
  const references = useMemo(() => {
    const answered = earlier.flatMap(each => answerReferences(each, operationOf(each)));
    return [
      ...referencesOf(schema, newest),
      ...(repeat ? itemReferences(repeat, schema, newest, answered) : []),
      ...answered,
    ];
  }, [schema, newest, repeat, earlier, operationOf]);
  // What this call and later ones answer can't be used here; the list of calls names it.
  const later = useSame(calls.slice(callAt).map(each => ({ ...each, lines: [] })));
  const labels = useMemo(() => {
    const named = [...later.flatMap(each => answerReferences(each, operationOf(each))), ...references];
    return new Map(named.map(each => [each.key, each.label]));
  }, [references, later, operationOf]);
  const labelOf = useCallback((key: string) => labels.get(key) ?? referenceLabel(referenceOf(key)) ?? key, [labels]);
  const proposals = useMemo(() => {
    const looked = newest.map(each => each.submission);
    const found = operation ? propose(schema, looked, operation) : [];
    return new Map(found.map(each => [each.to, each]));
  }, [schema, newest, operation]);
  return useMemo(() => ({ references, labelOf, proposals }), [references, labelOf, proposals]);
}
