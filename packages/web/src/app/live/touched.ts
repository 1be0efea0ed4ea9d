import type { LiveEvent } from '@grammata/contract';

/** What is shown already, by the key of its query. */
type Shown = (key: string[]) => unknown;

/** True for an edit that is on the screen: it was made here. */
const isShown = ({ id, revision }: { id: string; revision?: number }, shown: Shown): boolean => {
  const route = shown(['routes', id, 'view']) as { revision: number } | undefined;
  return revision !== undefined && route !== undefined && route.revision >= revision;
};

/** What of the things that are kept to be shown an event is about: keys of queries, as exact as can be. */
export function touched(event: LiveEvent, shown: Shown): string[][] {
  switch (event.type) {
    case 'arrival':
      return [
        ['intakes', 'list'],
        ['intakes', event.intakeId],
        ['arrivals', event.intakeId],
        ['arrival', event.arrivalId],
        ...(event.formIds ?? []).flatMap(id => [
          ['forms', id],
          ['samples', id],
        ]),
        ['desk'],
      ];
    case 'drift':
      return [['changes'], ['desk']];
    case 'stray':
      return [['strays'], ['desk']];
    case 'storage':
      return [['desk']];
    case 'signedOut':
      return [['session']];
    case 'delivery':
      return [
        ['deliveries'],
        ['delivery', event.deliveryId],
        ['arrival'],
        ['routes', event.routeId, 'refusals'],
        ['routes', 'list'],
        ['desk'],
      ];
    case 'form':
      return [
        ['forms', event.formId],
        ['forms', 'list'],
        ['routes'],
        ['samples', event.formId],
        ['intakes'],
        ['arrival'],
      ];
    case 'work':
      return event.ended
        ? [
            ['work'],
            ['intakes'],
            ['arrivals', ...(event.intakeId ? [event.intakeId] : [])],
            ['arrival'],
            ['forms'],
            ['samples'],
            ['deliveries'],
            ['routes', 'list'],
            ['desk'],
          ]
        : [['work']];
    case 'changed':
      return event.what === 'route'
        ? [
            ['routes', 'list'],
            ...(isShown(event, shown)
              ? []
              : [
                  ['routes', event.id, 'view'],
                  ['routes', event.id, 'versions'],
                  ['routes', event.id, 'proofs'],
                  ['routes', event.id, 'batch'],
                ]),
            ['desk'],
          ]
        : event.what === 'target'
          ? [['targets'], ['routes'], ['desk']]
          : [['intakes', 'list'], ['intakes', event.id], ['desk']];
  }
}
