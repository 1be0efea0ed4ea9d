import { fareOf, usesOf, type DocumentChange, type Fare, type FormChange, type Use } from '@grammata/core/drift';
import { targetsOf, type Call, type RouteDefinition } from '@grammata/core/route';
import { asText, type Submission } from '@grammata/core/submission';
import type { Operation } from '@grammata/core/target';
import type { Services } from '../services';
import type { ChangeRow, RouteRow } from '../store';

/** What a change does to a route: breaks: what comes can't be sent, or goes wrong. risks: something it uses is another. */
export type TouchClass = 'breaks' | 'risks' | 'harmless';

export interface Touched {
  touch: TouchClass;
  /** Where the route uses what changed. */
  uses: Use[];
  /** How many of the newest submissions can't be sent. */
  held: number;
  looked: number;
}

type Parts = Pick<Services, 'store'>;

/** Changes after which a question that is used gives something else, or nothing. */
const telling = new Set<string>([
  'gone',
  'replaced',
  'kind',
  'notation',
  'single-to-list',
  'list-to-single',
  'option-renamed',
  'option-gone',
  'option-added',
]);

/** What a change of a form does to a route as it is live, tried on what came since. */
export function formTouch(
  parts: Parts,
  { what }: Pick<ChangeRow, 'what'>,
  definition: RouteDefinition,
  since: readonly Submission[],
): Touched {
  const { change, question } = what as FormChange;
  const { now: is } = what;
  // What takes the successor, too, serves both.
  const served = new Set(change === 'replaced' ? usesOf(definition, asText(is ?? null)).map(placeOf) : []);
  const uses = question === null ? [] : usesOf(definition, question).filter(each => !served.has(placeOf(each)));
  const { held, looked } = heldOf(parts, definition, since);
  const isUsed = uses.length > 0 && telling.has(change);
  const isEmptied = isUsed && (change === 'gone' || change === 'replaced') && uses.some(each => each.what !== 'line');
  const touch =
    !isUsed && !(change === 'envelope' && held > 0) ? 'harmless' : held > 0 || isEmptied ? 'breaks' : 'risks';
  return { touch, uses, held, looked };
}

const placeOf = ({ callId, lineId, what }: Use): string => `${what} ${callId} ${lineId}`;

/** How a route fares with these, by what its targets offer now. */
export const heldOf = (
  { store }: Pick<Parts, 'store'>,
  definition: RouteDefinition,
  all: readonly Submission[],
): Fare => fareOf(definition, targetsFor({ store }, definition), all);

const targetsFor = ({ store }: Pick<Parts, 'store'>, definition: RouteDefinition) =>
  targetsOf(definition).flatMap(id => store.targets.byId(id) ?? []);

/** What makes a call fail, and what only may. */
const breaking = new Set<string>([
  'operation-gone',
  'field-gone',
  'field-renamed',
  'required',
  'option-gone',
  'option-renamed',
  'type',
]);
const risky = new Set<string>(['operation-moved', 'format', 'narrowed', 'option-added']);

/** What a change of a target does to a route. */
export function targetTouch(
  { what, subjectId }: Pick<ChangeRow, 'what' | 'subjectId'>,
  definition: RouteDefinition,
  before: readonly Operation[],
): Touched {
  const { change, operation, field, now: is } = what as DocumentChange;
  const none: Touched = { touch: 'harmless', uses: [], held: 0, looked: 0 };
  const changed = before.find(each => `${each.method} ${each.path}` === operation);
  if (!changed) return none;
  const calls = definition.calls.filter(each => each.targetId === subjectId && uses(each, changed.id));
  if (calls.length === 0) return none;
  const key = changed.fields.find(
    each => (each.in === 'query' ? `?${each.pointer}` : each.pointer || `/${each.key}`) === field,
  )?.key;
  const places = calls.flatMap((call): Use[] => {
    const line = call.lines.find(each => each.to === key && each.source !== null);
    if (field === undefined) return [{ callId: call.id, lineId: null, what: 'line' }];
    return line ? [{ callId: call.id, lineId: line.id, what: 'line' }] : [];
  });
  const isFilled = places.length > 0;
  const wantsMore =
    (change === 'required' && !isFilled) ||
    (change === 'field-added' && (is as { required?: boolean } | undefined)?.required === true);
  const touch: TouchClass = wantsMore
    ? 'breaks'
    : change === 'required' || change === 'field-added'
      ? isFilled
        ? 'risks'
        : 'harmless'
      : isFilled && breaking.has(change)
        ? 'breaks'
        : isFilled && risky.has(change)
          ? 'risks'
          : 'harmless';
  const all =
    places.length > 0 || !wantsMore
      ? places
      : calls.map((call): Use => ({ callId: call.id, lineId: null, what: 'line' }));
  return { touch, uses: all, held: 0, looked: 0 };
}

const uses = ({ operationId, find, readBack }: Call, id: string): boolean =>
  operationId === id || find?.operationId === id || find?.update?.operationId === id || readBack?.operationId === id;

/** What a route does: as it is live, or as it is drawn. */
export const definitionOf = ({ store }: Pick<Parts, 'store'>, route: RouteRow): RouteDefinition =>
  (route.state === 'draft' ? undefined : store.routes.latestVersion(route.id)?.definition) ?? route.draft;
