import { asText, escapeToken, isJsonObject, valueAt, type Json } from '../submission';
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
  const tables = valueAt(answer, recipe.tables);
  if (!Array.isArray(tables)) return { fault: `There is no list of tables at “${recipe.tables}” in the answer.` };
  const operations = tables.flatMap(table => readTable(table, recipe) ?? []);
  if (operations.length === 0) return { fault: 'The answer lists no table with a key and columns.' };
  return { operations };
}

function readTable(table: Json, recipe: DiscoveryRecipe): Operation | null {
  const key = asText(valueAt(table, recipe.tableKey));
  const columns = valueAt(table, recipe.columns);
  if (!key || !Array.isArray(columns)) return null;
  const label = asText(valueAt(table, recipe.tableLabel)) || key;
  const fields = columns.filter(isJsonObject).flatMap(column => readColumn(column, recipe) ?? []);
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

function readColumn(column: Json, { column: at, types, create }: DiscoveryRecipe): TargetField | null {
  const key = asText(valueAt(column, at.key));
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
