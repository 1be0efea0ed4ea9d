import { asText, escapeToken, isJsonObject, valueAt, type Json, type JsonObject } from '../submission';
import { optionsIn } from './options';
import { targetTypes, type Operation, type TargetField, type TargetType } from './operation';

/**
 * How to read a target that lists its own tables and columns at an address: JSON Pointers into its answer.
 * Pointers under `column` start at one column, `/tables/0/columns/3` for instance.
 */
export interface DiscoveryRecipe {
  /** Below the base address. */
  path: string;
  tables: string;
  /** True where what stands there is one table, and has no name of its own. */
  isOneTable?: boolean;
  tableKey: string;
  tableLabel: string;
  columns: string;
  column: {
    key: string;
    label: string;
    type: string;
    required: string;
    options: string;
    readOnly: string;
    maxLength: string;
    description: string;
  };
  /** The target's words for types; what is not in here is taken as it is, or as text. */
  types: Record<string, TargetType>;
  create: {
    method: Operation['method'];
    /** `{table}` stands for the table's key (RFC 6570 level 1). */ path: string;
    bodyAt: string;
  };
}

/** The recipe that fits most: tables with columns, records created below the table. */
export const usualRecipe: DiscoveryRecipe = {
  path: '/tables',
  tables: '/tables',
  tableKey: '/key',
  tableLabel: '/title',
  columns: '/columns',
  column: {
    key: '/key',
    label: '/title',
    type: '/type',
    required: '/required',
    options: '/options',
    readOnly: '/readOnly',
    maxLength: '/maxLength',
    description: '/description',
  },
  types: {
    string: 'text',
    timestamp: 'datetime',
    option: 'choice',
    options: 'choices',
    files: 'attachments',
    whole: 'integer',
    flag: 'boolean',
  },
  create: { method: 'POST', path: '/tables/{table}/records', bodyAt: '/values' },
};

export type Discovery = { operations: Operation[] } | { fault: string };

/** The operations that a target's answer describes, or what is missing in it. */
export function readDiscovery(answer: Json, recipe: DiscoveryRecipe): Discovery {
  const held = valueAt(answer, recipe.tables);
  const tables = recipe.isOneTable ? (held === undefined ? null : [{ name: ONE_TABLE, of: held }]) : listed(held);
  if (tables === null) return { fault: `There is no list of tables at “${recipe.tables}” in the answer.` };
  const operations = tables.flatMap(table => readTable(table, recipe) ?? []);
  if (operations.length === 0) return { fault: 'The answer lists no table with a key and columns.' };
  return { operations };
}

/** What the one table of an answer is called that names none. */
const ONE_TABLE = 'records';

/** Things in a list, or by their names in an object; null where it is neither. */
function listed(held: Json | undefined): { name: string; of: Json }[] | null {
  if (Array.isArray(held)) return held.map(of => ({ name: '', of }));
  return isJsonObject(held ?? null) && Object.keys(held as JsonObject).length > 0
    ? Object.entries(held as JsonObject).flatMap(([name, of]) => (isJsonObject(of) ? [{ name, of }] : []))
    : null;
}

function readTable({ name, of: table }: { name: string; of: Json }, recipe: DiscoveryRecipe): Operation | null {
  const key = (recipe.isOneTable ? '' : asText(valueAt(table, recipe.tableKey))) || name;
  const columns = listed(valueAt(table, recipe.columns));
  if (!key || columns === null) return null;
  const label = (recipe.isOneTable ? '' : asText(valueAt(table, recipe.tableLabel))) || key;
  const fields = columns.flatMap(column => readColumn(column, recipe) ?? []);
  return {
    id: `create:${key}`,
    label: `Add a record to ${label}`,
    method: recipe.create.method,
    path: recipe.create.path.replace('{table}', encodeURIComponent(key)),
    fields,
    // What a target makes itself, such as a record's number, is what it answers with.
    answer: fields
      .filter(each => each.readOnly)
      .map(({ key: name, label: words, type }) => ({ pointer: `/${escapeToken(name)}`, label: words, type })),
  };
}

function readColumn(
  { name, of: column }: { name: string; of: Json },
  { column: at, types, create }: DiscoveryRecipe,
): TargetField | null {
  if (!isJsonObject(column)) return null;
  const key = asText(valueAt(column, at.key)) || name;
  if (!key) return null;
  const options = valueAt(column, at.options);
  const maxLength = valueAt(column, at.maxLength);
  return {
    key,
    pointer: `${create.bodyAt}/${escapeToken(key)}`,
    label: asText(valueAt(column, at.label)) || key,
    type: typeOf(asText(valueAt(column, at.type)), types),
    required: valueAt(column, at.required) === true,
    readOnly: valueAt(column, at.readOnly) === true,
    ...optionsIn(options),
    maxLength: typeof maxLength === 'number' ? maxLength : null,
    description: asText(valueAt(column, at.description)) || null,
  };
}

function typeOf(word: string, types: Record<string, TargetType>): TargetType {
  const name = word.toLowerCase();
  return (Object.hasOwn(types, name) ? types[name] : undefined) ?? targetTypes.find(type => type === name) ?? 'text';
}
