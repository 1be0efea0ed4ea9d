import type { Column, Table } from './tables';

/** What may be done to a column of the register. */
export const columnEditKinds = {
  required: 'make it required',
  renamed: 'rename it',
  'option-renamed': 'rename its first option',
  'option-retired': 'remove its last option',
  shorter: 'limit it to 20 characters',
  retired: 'remove it',
  added: 'add a required field after it',
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
