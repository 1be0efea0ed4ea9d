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
  const labels = useMemo(() => new Map(references.map(each => [each.key, each.label])), [references]);
  const labelOf = useCallback((key: string) => labels.get(key) ?? referenceLabel(referenceOf(key)) ?? key, [labels]);
  const proposals = useMemo(() => {
    const looked = newest.map(each => each.submission);
    const found = operation ? propose(schema, looked, operation) : [];
    return new Map(found.map(each => [each.to, each]));
  }, [schema, newest, operation]);
  return useMemo(() => ({ references, labelOf, proposals }), [references, labelOf, proposals]);
}
