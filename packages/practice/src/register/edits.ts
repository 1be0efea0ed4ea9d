import type { Column, Table } from './tables';

/** What may be done to a column of the register. */
export const columnEditKinds = {
  required: 'require it',
  renamed: 'call it otherwise',
  'option-renamed': 'call its first option otherwise',
  'option-retired': 'take its last option away',
  shorter: 'take 20 characters only',
  retired: 'take it away',
  added: 'add a required one behind it',
} as const;
export type ColumnEditKind = keyof typeof columnEditKinds;

/** One thing that was done to a column. */
export interface ColumnEdit {
  table: string;
  column: string;
  what: ColumnEditKind;
  to: string;
}

/** Tables with all that was done to them. */
export const editedTables = (tables: readonly Table[], edits: readonly ColumnEdit[]): Table[] =>
  tables.map(table => ({
    ...table,
    columns: edits
      .filter(each => each.table === table.key)
      .reduce(
        (columns, edit) => columns.flatMap(each => (each.key === edit.column ? doneTo(each, edit) : [each])),
        table.columns,
      ),
  }));

function doneTo(column: Column, { what, to }: ColumnEdit): Column[] {
  const [first, ...others] = column.options ?? [];
  switch (what) {
    case 'required':
      return [{ ...column, required: true }];
    case 'renamed':
      return [{ ...column, key: to }];
    case 'option-renamed':
      return first === undefined ? [column] : [{ ...column, options: [to, ...others] }];
    case 'option-retired':
      return column.options && column.options.length > 1
        ? [{ ...column, options: column.options.slice(0, -1) }]
        : [column];
    case 'shorter':
      return [{ ...column, maxLength: 20 }];
    case 'retired':
      return [];
    case 'added':
      return [column, { key: to, title: to, type: 'string', required: true }];
  }
}
