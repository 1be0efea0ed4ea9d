import { jsonSchemaOf } from '@grammata/core/schema';
import { answerOf, asText, isJsonObject, type Json } from '@grammata/core/submission';
import Papa from 'papaparse';
import { iso } from '../clock';
import { formula } from '../files';
import type { FormWithCounts, SubmissionRow } from '../store';

/** A form's submissions, or what they look like, as a file: what stands at its head, and a row for each submission. */
export interface Exporter {
  type: string;
  ending: string;
  head: string;
  /** Null where the head is all. */
  row: ((sample: SubmissionRow) => string) | null;
}

const cell = (value: Json | undefined): string =>
  Array.isArray(value)
    ? value.map(each => (isJsonObject(each) && typeof each.name === 'string' ? each.name : asText(each))).join('; ')
    : asText(value);

const line = (cells: string[]) => `${Papa.unparse([cells], { escapeFormulae: formula, newline: '\r\n' })}\r\n`;

/** One line a submission, one column a question (RFC 4180); what a spreadsheet would run as a formula is made text. */
const csv = ({ schema }: FormWithCounts): Exporter => ({
  type: 'text/csv; charset=utf-8; header=present',
  ending: 'csv',
  head: line(['Received', 'Id', ...schema.fields.map(field => field.label)]),
  row: ({ data, receivedAt }) =>
    line([iso(receivedAt), data.id ?? '', ...schema.fields.map(field => cell(answerOf(data, field.key)))]),
});

/** One JSON document a line: the submission as it was read. */
const ndjson = (): Exporter => ({
  type: 'application/x-ndjson',
  ending: 'ndjson',
  head: '',
  row: ({ data, receivedAt }) => `${JSON.stringify({ receivedAt: iso(receivedAt), ...data })}\n`,
});

const jsonSchema = ({ form, schema }: FormWithCounts): Exporter => ({
  type: 'application/schema+json',
  ending: 'schema.json',
  head: JSON.stringify(jsonSchemaOf(schema, form.name), null, 2),
  row: null,
});

export const exporters: Record<string, (form: FormWithCounts) => Exporter> = { csv, ndjson, schema: jsonSchema };
