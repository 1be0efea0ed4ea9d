import { isJsonObject, pointerOf, tokensOf, valueAt, type Json } from '../submission';
import { readDiscovery, usualRecipe, type DiscoveryRecipe } from './discovery';

/** What a place of an answer that lists columns can be. */
export const recipeRoles = [
  'columnKey',
  'columnLabel',
  'columnType',
  'columnRequired',
  'columnOptions',
  'tableKey',
  'tableLabel',
] as const;
export type RecipeRole = (typeof recipeRoles)[number];

const columnParts = {
  columnKey: 'key',
  columnLabel: 'label',
  columnType: 'type',
  columnRequired: 'required',
  columnOptions: 'options',
} as const satisfies Partial<Record<RecipeRole, keyof DiscoveryRecipe['column']>>;

/** A list, or an object of objects by their names, that a place stands in: where it is, and the way from one of its things to the place. */
interface Holder {
  at: string;
  inside: string;
  isList: boolean;
}

const isHolder = (value: Json | undefined): boolean =>
  Array.isArray(value)
    ? value.some(isJsonObject)
    : isJsonObject(value ?? null) &&
      Object.values(value as object).length > 1 &&
      Object.values(value as object).every(each => isJsonObject(each as Json));

/** What holds a place, the innermost first. */
function holdersOf(answer: Json, pointer: string): Holder[] {
  const tokens = tokensOf(pointer);
  const holders: Holder[] = [];
  for (let length = tokens.length - 1; length >= 0; length--) {
    const at = pointerOf(tokens.slice(0, length));
    const held = valueAt(answer, at);
    if (isHolder(held)) holders.push({ at, inside: pointerOf(tokens.slice(length + 1)), isList: Array.isArray(held) });
  }
  return holders;
}

/**
 * A recipe with what a place of a real answer is to it. What is pointed at in a column says where the columns and the tables stand, too.
 * @example pointRecipe(usualRecipe, 'columnKey', { data: [{ cols: [{ id: 'c1' }] }] }, '/data/0/cols/0/id')
 *   // { …, tables: '/data', columns: '/cols', column: { …, key: '/id' } }
 */
export function pointRecipe(
  recipe: DiscoveryRecipe,
  role: RecipeRole,
  answer: Json,
  pointer: string,
): DiscoveryRecipe | { refusal: string } {
  if (valueAt(answer, pointer) === undefined) return { refusal: 'There is nothing at this place.' };
  const [inner, outer] = holdersOf(answer, pointer);
  if (role === 'tableKey' || role === 'tableLabel') {
    const table = outer ?? inner;
    if (!table) return { refusal: 'Point at what a table in a list is called.' };
    // What stands in a column says nothing of its table.
    if (outer && outer.inside !== '' && tokensOf(outer.inside).length > 1 && inner!.at !== outer.at)
      return { refusal: 'This stands in a column. Point at what a table is called.' };
    return { ...recipe, isOneTable: false, tables: table.at, [role]: table.inside };
  }
  if (!inner) return { refusal: 'Point at something in one of the columns.' };
  if (inner.inside === '') return { refusal: 'Point at something in a column, not at the column.' };
  const column = { ...recipe.column, [columnParts[role]]: inner.inside };
  const tables = outer?.at ?? '';
  const columns = outer
    ? inner.at.slice(pointerOf(tokensOf(inner.at).slice(0, tokensOf(outer.at).length + 1)).length)
    : inner.at;
  return { ...recipe, tables, columns, isOneTable: !outer, column };
}

/** What the parts of tables and columns are called, the surest first, without case and underscores. *Common practice, no source.* */
const names: Record<RecipeRole, string[]> = {
  columnKey: ['key', 'apiname', 'slug', 'code', 'id', 'field', 'column', 'name'],
  columnLabel: ['title', 'label', 'caption', 'displayname', 'text', 'name'],
  columnType: ['type', 'datatype', 'fieldtype', 'kind', 'format'],
  columnRequired: ['required', 'isrequired', 'mandatory', 'must', 'nonnull'],
  columnOptions: ['options', 'choices', 'enum', 'allowedvalues', 'allowed', 'picklistvalues', 'picklist', 'values'],
  tableKey: ['key', 'apiname', 'slug', 'code', 'id', 'table', 'name'],
  tableLabel: ['title', 'label', 'caption', 'displayname', 'name'],
};

/** The key that a role is most likely called by. */
function named(role: RecipeRole, keys: readonly string[]): string | undefined {
  const plain = (key: string) => key.toLowerCase().replace(/[_-]/g, '');
  return names[role].flatMap(name => keys.find(key => plain(key) === name) ?? [])[0];
}

/** A recipe for an answer, where what its parts are called tells; null where it does not. */
export function proposeRecipe(answer: Json): DiscoveryRecipe | null {
  if (!('fault' in readDiscovery(answer, usualRecipe))) return usualRecipe;
  for (const at of placesOf(answer)) {
    const parts = valueAt(answer, at);
    if (!isJsonObject(parts ?? null)) continue;
    const keys = Object.keys(parts as object);
    const [holder] = holdersOf(answer, `${at}/x`);
    if (named('columnType', keys) === undefined || holder?.inside !== '/x') continue;
    let recipe: DiscoveryRecipe = { ...usualRecipe, column: { ...usualRecipe.column } };
    for (const role of recipeRoles.slice(0, 5)) {
      const name = named(role, keys);
      const pointed = name === undefined ? null : pointRecipe(recipe, role, answer, `${at}${pointerOf([name])}`);
      if (pointed && !('refusal' in pointed)) recipe = pointed;
    }
    const [, outer] = holdersOf(answer, `${at}/x`);
    if (outer) {
      const table = valueAt(answer, pointerOf(tokensOf(at).slice(0, tokensOf(outer.at).length + 1)));
      const own = isJsonObject(table ?? null) ? Object.keys(table as object) : [];
      for (const role of ['tableKey', 'tableLabel'] as const) {
        const name = named(role, own);
        if (name !== undefined) recipe = { ...recipe, [role]: pointerOf([name]) };
      }
    }
    if (!('fault' in readDiscovery(answer, recipe))) return recipe;
  }
  return null;
}

/** Every object in a document, outermost first, as far as is looked. */
function placesOf(document: Json): string[] {
  const places: string[] = [];
  let level: { value: Json; at: string }[] = [{ value: document, at: '' }];
  for (let depth = 0; depth < 8 && places.length < 500; depth++) {
    level = level.flatMap(({ value, at }) => {
      if (typeof value !== 'object' || value === null) return [];
      if (!Array.isArray(value)) places.push(at);
      return Object.entries(value)
        .slice(0, 50)
        .map(([name, each]) => ({ value: each as Json, at: `${at}${pointerOf([name])}` }));
    });
  }
  return places;
}
