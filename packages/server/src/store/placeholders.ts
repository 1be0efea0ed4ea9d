import { getTableColumns, sql, type Table } from 'drizzle-orm';

/** A placeholder in a statement that is made once; what goes there is given as it runs. */
export const given = (name: string) => sql`${sql.placeholder(name)}` as never;

/** A placeholder for every column, by the column's name. */
export const allOf = (table: Table) =>
  Object.fromEntries(Object.keys(getTableColumns(table)).map(name => [name, sql.placeholder(name)])) as never;

/**
 * Every column of a table out of a list of rows that is given as JSON, under `rows`: one statement stores them all. Members are
 * called as the columns are in the code.
 */
export const eachOf = (table: Table) =>
  sql`select ${sql.join(
    Object.keys(getTableColumns(table)).map(name => sql`json_extract(value, ${sql.raw(`'$.${name}'`)})`),
    sql`, `,
  )} from json_each(${sql.placeholder('rows')}) where true`;
