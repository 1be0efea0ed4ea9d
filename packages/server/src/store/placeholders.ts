import { getTableColumns, sql, type Table } from 'drizzle-orm';

/** A placeholder in a statement that is made once; what goes there is given as it runs. */
export const given = (name: string) => sql`${sql.placeholder(name)}` as never;

/** A placeholder for every column, by the column's name. */
export const allOf = (table: Table) =>
  Object.fromEntries(Object.keys(getTableColumns(table)).map(name => [name, sql.placeholder(name)])) as never;
