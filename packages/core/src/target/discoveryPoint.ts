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
  const holders = holdersOf(answer, pointer);
  // What stands deeper in a column that is known, such as the name of an option, is still of that column.
  const known =
    role === 'tableKey' || role === 'tableLabel' ? -1 : holders.findIndex(each => isColumns(recipe, each.at));
  const [inner, outer] = known < 0 ? holders : holders.slice(known);
  if (role === 'tableKey' || role === 'tableLabel') {
    const table = outer ?? inner;
    if (!table) return { refusal: 'Point at the name of a table in a list.' };
    // What stands in a column says nothing of its table.
    if (outer && outer.inside !== '' && tokensOf(outer.inside).length > 1 && inner!.at !== outer.at)
      return { refusal: 'This is in a column. Point at the name of a table.' };
    return { ...recipe, isOneTable: false, tables: table.at, [role]: table.inside };
  }
  if (!inner) return { refusal: 'Point at something in one of the columns.' };
  if (inner.inside === '') return { refusal: 'Point at something in a column, not at the column.' };
  const place = role === 'columnOptions' ? listIn(answer, inner, pointer) : inner.inside;
  const column = { ...recipe.column, [columnParts[role]]: place };
  if (known >= 0) return { ...recipe, column };
  const tables = outer?.at ?? '';
  const columns = outer
    ? inner.at.slice(pointerOf(tokensOf(inner.at).slice(0, tokensOf(outer.at).length + 1)).length)
    : inner.at;
  return { ...recipe, tables, columns, isOneTable: !outer, column };
}

/** True where a recipe that somebody began says that the columns of a table stand at a place. */
function isColumns({ isOneTable, tables, columns }: DiscoveryRecipe, at: string): boolean {
  if (isOneTable) return at === `${tables}${columns}`;
  const [own, base] = [tokensOf(at), tokensOf(tables)];
  return at.startsWith(tables) && pointerOf(own.slice(base.length + 1)) === columns && own.length > base.length;
}

/** The way from a column to the outermost list on the way to a place in it: its options, whichever of them was pointed at. */
function listIn(answer: Json, { at, inside }: Holder, pointer: string): string {
  const column = tokensOf(pointer).slice(0, tokensOf(at).length + 1);
  const tokens = tokensOf(inside);
  for (let length = 1; length < tokens.length; length++)
    if (typeof valueAt(answer, pointerOf([...column, ...tokens.slice(0, length)])) === 'object')
      return pointerOf(tokens.slice(0, length));
  return inside;
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
