import type { LiveEvent } from '@grammata/contract';
import type { QueryKey } from '@tanstack/react-query';
import { keys } from '../../api';

/** What is shown already, by the key of its query. */
type Shown = (key: QueryKey) => unknown;
type Of<Type extends LiveEvent['type']> = Extract<LiveEvent, { type: Type }>;

/** True for an edit that is on the screen: it was made here. */
const isShown = ({ id, revision }: { id: string; revision?: number }, shown: Shown): boolean => {
  const route = shown(keys.routes.view(id)) as { revision: number } | undefined;
  return revision !== undefined && route !== undefined && route.revision >= revision;
};

const changed: Record<Of<'changed'>['what'], (event: Of<'changed'>, shown: Shown) => QueryKey[]> = {
  route: (event, shown) => [
    keys.routes.list,
    ...(isShown(event, shown)
      ? []
      : [
          keys.routes.view(event.id),
          keys.routes.versions(event.id),
          keys.routes.proofs(event.id),
          keys.routes.batch(event.id),
        ]),
    keys.desk,
  ],
  target: () => [keys.targets.all, keys.routes.all, keys.desk],
  intake: ({ id }) => [keys.intakes.list, keys.intakes.one(id), keys.strip, keys.desk],
};

/** What of the things that are kept to be shown each kind of event is about: keys as exact as can be. */
const table: { [Type in LiveEvent['type']]: (event: Of<Type>, shown: Shown) => QueryKey[] } = {
  arrival: ({ intakeId, arrivalId, formIds = [] }) => [
    keys.intakes.list,
    keys.intakes.one(intakeId),
    keys.arrivals.of(intakeId),
    keys.arrival.one(arrivalId),
    ...formIds.flatMap(id => [keys.forms.one(id), keys.samples.of(id), keys.forms.list]),
    keys.strip,
    keys.desk,
  ],
  delivery: ({ deliveryId, routeId, state }) => [
    keys.deliveries.all,
    keys.delivery.one(deliveryId),
    keys.arrival.all,
    keys.routes.refusals(routeId),
    keys.routes.allResponses(routeId),
    keys.routes.list,
    // What is held, or went without an answer, may be so for a change, and is counted there.
    ...(state === 'held' || state === 'delivered' ? [keys.changes] : []),
    keys.strip,
    keys.desk,
  ],
  drift: () => [keys.changes, keys.strip, keys.desk],
  stray: () => [keys.strays, keys.desk],
  storage: () => [keys.strip, keys.desk],
  signedOut: () => [keys.session],
  form: ({ formId }) => [
    keys.forms.one(formId),
    keys.forms.list,
    keys.routes.all,
    keys.samples.of(formId),
    keys.intakes.all,
    keys.arrival.all,
  ],
  work: ({ ended, intakeId }) =>
    ended
      ? [
          keys.work.all,
          keys.intakes.all,
          intakeId ? keys.arrivals.of(intakeId) : keys.arrivals.all,
          keys.arrival.all,
          keys.forms.all,
          keys.samples.all,
          keys.deliveries.all,
          keys.routes.list,
          keys.strip,
          keys.desk,
        ]
      : [keys.work.all],
  changed: (event, shown) => changed[event.what](event, shown),
};

export const touched = (event: LiveEvent, shown: Shown): QueryKey[] =>
  (table[event.type] as (event: LiveEvent, shown: Shown) => QueryKey[])(event, shown);
