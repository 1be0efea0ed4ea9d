import type { Column, Table } from './tables';

export interface Complaint {
  field: string;
  message: string;
}

const isText = (value: unknown) => typeof value === 'string';

/** What a value of each type looks like. Real systems do not convert either. */
const takes: Record<Column['type'], (value: unknown) => boolean> = {
  string: isText,
  number: value => typeof value === 'number',
  whole: value => Number.isInteger(value),
  flag: value => typeof value === 'boolean',
  date: value =>
    isText(value) && /^\d{4}-\d\d-\d\d$/.test(value as string) && !Number.isNaN(Date.parse(value as string)),
  timestamp: value =>
    isText(value) && /^\d{4}-\d\d-\d\dT/.test(value as string) && !Number.isNaN(Date.parse(value as string)),
  option: isText,
  options: value => Array.isArray(value) && value.every(isText),
  files: value =>
    Array.isArray(value) &&
    value.every(each => typeof each === 'object' && each !== null && isText((each as { url?: unknown }).url)),
};

/** Everything the register has against a record. */
export function complaintsAbout(table: Table, values: Record<string, unknown>): Complaint[] {
  const unknown = Object.keys(values).filter(key => !table.columns.some(column => column.key === key));
  return [
    ...unknown.map(field => ({ field, message: 'no such column' })),
    ...table.columns.flatMap(column => complaintAbout(column, values[column.key]) ?? []),
  ];
}

function complaintAbout(column: Column, value: unknown): Complaint | null {
  const { key: field, type, required, readOnly, options, maxLength } = column;
  if (value === undefined || value === null || value === '') return required ? { field, message: 'is required' } : null;
  if (readOnly) return { field, message: 'can’t be set' };
  if (!takes[type](value)) return { field, message: `must be of type ${type}` };
  const missing = options && (Array.isArray(value) ? value : [value]).find(each => !options.includes(String(each)));
  if (missing !== undefined && missing !== false)
    return { field, message: `“${String(missing)}” is not one of the options` };
  if (maxLength !== undefined && String(value).length > maxLength)
    return { field, message: `may have ${maxLength} characters` };
  return null;
}
