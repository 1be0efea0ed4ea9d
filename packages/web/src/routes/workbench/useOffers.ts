import type { CallInput, RouteView } from '@grammata/contract';
import { propose } from '@grammata/core/match';
import type { Sample } from '@grammata/core/rehearse';
import { referenceLabel, referenceOf } from '@grammata/core/scope';
import { useCallback, useMemo } from 'react';
import { answerReferences, itemReferences, referencesOf } from './references';
import type { CallAtHand, Offers } from './workbench';

/** What a line can draw on, by its name, and what is proposed for each field. */
export function useOffers(
  route: RouteView,
  calls: CallInput[],
  { call: { repeat }, callAt, operation, operationOf }: CallAtHand,
  newest: Sample[],
): Offers {
  const earlier = useMemo(() => calls.slice(0, callAt), [calls, callAt]);
  const references = useMemo(
    () => [
      ...referencesOf(route, newest),
      ...(repeat ? itemReferences(repeat, route, newest) : []),
      ...earlier.flatMap(each => answerReferences(each, operationOf(each))),
    ],
    [route, newest, repeat, earlier, operationOf],
  );
  const labels = useMemo(() => new Map(references.map(each => [each.key, each.label])), [references]);
  const labelOf = useCallback((key: string) => labels.get(key) ?? referenceLabel(referenceOf(key)) ?? key, [labels]);
  const proposals = useMemo(() => {
    const looked = newest.map(each => each.submission);
    const found = operation ? propose(route.form.schema, looked, operation) : [];
    return new Map(found.map(each => [each.to, each]));
  }, [route.form.schema, newest, operation]);
  return useMemo(() => ({ references, labelOf, proposals }), [references, labelOf, proposals]);
}
