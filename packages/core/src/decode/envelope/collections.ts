import { escapeToken, isJsonObject, type Json, type JsonObject } from '../../submission';
import { wordingWorth } from '../evidence';
import { speaksOf, speaksOnlyOf } from '../names';
import { most } from '../notes';

/** An item of a list or dictionary, where it stands, and its key in a dictionary. */
export interface Item {
  object: JsonObject;
  pointer: string;
  key: string | null;
  /** The member whose own members were laid open beside the others, and their names. */
  laid?: { holder: string; names: string[] };
  /** Its place in the order of the document. */
  order: number;
}

/** Objects that stand side by side: a list of them, or a dictionary. */
export interface Collection {
  items: Item[];
  pointer: string;
  isDictionary: boolean;
}

/** Names of the object that holds all of an item but its kind and identifier. */
const holdsItem = /^(attributes|properties|record)$/;

/**
 * Items that keep their question in an object of its own, `{ field: { id, label }, value }`, or all of it,
 * `{ type, id, attributes: { … } }`, with its members beside the others.
 */
function laidOpen(items: Item[]): Item[] {
  const first = items[0]!.object;
  // One that holds nothing but objects is no question with its answer.
  if (items.length === 1 && Object.values(first).every(isJsonObject)) return items;
  const holder = Object.keys(first).find(name => {
    const inner = first[name];
    if (!isJsonObject(inner) || !items.every(item => isJsonObject(item.object[name]))) return false;
    if (
      Object.keys(inner).some(each => speaksOf(each, 'wording') && typeof inner[each] === 'string') ||
      wordsItself(items, name)
    )
      return !speaksOnlyOf(name, 'answer') && varies(items, name);
    return (
      holdsItem.test(name) &&
      Object.values(inner).every(each => typeof each !== 'object' || Array.isArray(each) || each === null)
    );
  });
  if (holder === undefined) return items;
  return items.map(item => {
    const { [holder]: question, ...rest } = item.object;
    const inner = question as JsonObject;
    const isWhole = holdsItem.test(holder);
    return {
      ...item,
      object: isWhole ? { ...rest, ...inner } : { ...inner, ...rest },
      laid: { holder, names: Object.keys(inner).filter(each => isWhole || !Object.hasOwn(rest, each)) },
    };
  });
}

/** Whatever its members are called: one of them is a text that reads as a wording, another in each item. */
function wordsItself(items: Item[], name: string): boolean {
  if (items.length < 2) return false;
  const objects = items.slice(0, 24).map(item => item.object[name] as JsonObject);
  if (!objects.every(each => Object.values(each).every(inner => typeof inner !== 'object' || inner === null)))
    return false;
  return Object.keys(objects[0]!).some(member => {
    const texts = objects.map(each => each[member]);
    return (
      texts.every(each => typeof each === 'string' && !each.includes('\n')) &&
      new Set(texts).size > 0.8 * texts.length &&
      texts.reduce<number>((sum, each) => sum + wordingWorth(each as string), 0) > 0.8 * texts.length &&
      Object.keys(objects[0]!).length > 1
    );
  });
}

const varies = (items: Item[], name: string): boolean =>
  items.length === 1 ||
  items.some(item => JSON.stringify(item.object[name]) !== JSON.stringify(items[0]!.object[name]));

/** Sorts that the items of one list are told apart by. */
const MOST_SORTS = 12;

/** Lists whose items are of several sorts, as one of their members says: `{ type: 'question' }` beside `{ type: 'answer' }`. */
function sortsIn(items: Item[]): Item[][] {
  if (items.length < 3) return [];
  const name = Object.keys(items[0]!.object).find(
    each => speaksOf(each, 'kind') && items.every(item => typeof item.object[each] === 'string'),
  );
  if (name === undefined) return [];
  const groups = new Map<string, Item[]>();
  for (const item of items) {
    const sort = String(item.object[name]);
    const group = groups.get(sort);
    if (group) group.push(item);
    else if (groups.size > MOST_SORTS) return [];
    else groups.set(sort, [item]);
  }
  const shape = (item: Item) => Object.keys(deepNames(item.object)).sort().join();
  const shapes = [...groups.values()].map(group => shape(group[0]!));
  return groups.size > 1 && groups.size < items.length && new Set(shapes).size === shapes.length
    ? [...groups.values()]
    : [];
}

const deepNames = (object: JsonObject): Record<string, true> =>
  Object.fromEntries(
    Object.entries(object).flatMap(([name, value]) =>
      isJsonObject(value)
        ? Object.keys(value).map(inner => [`${name}.${inner}`, true] as const)
        : [[name, true] as const],
    ),
  );

/** Every list and dictionary of objects below a value, outermost first. */
export function collectionsIn(value: Json, at: string, depth: number): Collection[] {
  const found: Collection[] = [];
  const orders = new Map<string, number>();
  gather(value, at, depth, found, orders);
  for (const { items } of found) for (const item of items) item.order = orders.get(item.pointer) ?? 0;
  return found;
}

function gather(
  value: Json,
  at: string,
  depth: number,
  found: Collection[],
  orders: Map<string, number>,
): Collection[] {
  orders.set(at, orders.size);
  if (depth === 0 || at.length > most.pointer || typeof value !== 'object' || value === null) return found;
  if (Array.isArray(value)) {
    if (value.length > 0 && value.every(isJsonObject)) {
      const items = value.map((object, index): Item => ({ object, pointer: `${at}/${index}`, key: null, order: 0 }));
      found.push({ pointer: at, isDictionary: false, items: laidOpen(items) });
      for (const sort of sortsIn(items)) found.push({ pointer: at, isDictionary: false, items: laidOpen(sort) });
    }
  } else {
    const entries = Object.entries(value).filter((entry): entry is [string, JsonObject] => isJsonObject(entry[1]));
    if (entries.length > 0 && entries.length / Object.keys(value).length > 0.6) {
      const items = entries.map(([key, object]): Item => ({
        object,
        pointer: `${at}/${escapeToken(key)}`,
        key,
        order: 0,
      }));
      found.push({ pointer: at, isDictionary: true, items: laidOpen(items) });
    }
  }
  // Pointers are made only for what can hold a collection: most values are texts.
  for (const key of Object.keys(value)) {
    const each = (value as JsonObject)[key]!;
    if (typeof each !== 'object' || each === null) continue;
    gather(each, `${at}/${escapeToken(key)}`, depth - 1, found, orders);
  }
  return found;
}

/** Items that hold other items: the groups and sections. */
export function containersAmong(items: Item[]): Set<Item> {
  const byPointer = new Map(items.map(item => [item.pointer, item]));
  const containers = new Set<Item>();
  for (const { pointer } of items) {
    for (let slash = pointer.lastIndexOf('/'); slash > 0; slash = pointer.lastIndexOf('/', slash - 1)) {
      const holder = byPointer.get(pointer.slice(0, slash));
      if (holder) containers.add(holder);
    }
  }
  return containers;
}

/** By the order of the document. */
export const byOrder = (a: Item, b: Item): number => a.order - b.order;

/** The names of an object's members. */
export const shapeOf = (object: JsonObject): string => Object.keys(object).sort().join('\n');
