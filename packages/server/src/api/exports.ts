import { jsonSchemaOf } from '@grammata/core/schema';
import { answerOf, asText, isJsonObject, type Json } from '@grammata/core/submission';
import Papa from 'papaparse';
import { iso } from '../clock';
import type { FormWithCounts, SubmissionRow } from '../store';

/** A form's submissions, or what they look like, as a file. */
export interface Exported {
  type: string;
  ending: string;
  text: string;
}

/** What a spreadsheet would take for a formula; numbers are none. */
const formula = /^(?![-+]?[\d.,]+$)[=+\-@\t\r]/;

const cell = (value: Json | undefined): string =>
  Array.isArray(value)
    ? value.map(each => (isJsonObject(each) && typeof each.name === 'string' ? each.name : asText(each))).join('; ')
    : asText(value);

/** One line a submission, one column a question (RFC 4180); what a spreadsheet would run as a formula is made text. */
function csv({ form }: FormWithCounts, samples: SubmissionRow[]): Exported {
  const fields = ['Received', 'Id', ...form.schema.fields.map(field => field.label)];
  const data = samples.map(({ data: submission, receivedAt }) => [
    iso(receivedAt),
    submission.id ?? '',
    ...form.schema.fields.map(field => cell(answerOf(submission, field.key))),
  ]);
  return {
    type: 'text/csv; charset=utf-8; header=present',
    ending: 'csv',
    text: Papa.unparse({ fields, data }, { escapeFormulae: formula, newline: '\r\n' }),
  };
}

/** One JSON document a line: the submission as it was read. */
const ndjson = (_: FormWithCounts, samples: SubmissionRow[]): Exported => ({
  type: 'application/x-ndjson',
  ending: 'ndjson',
  text: samples.map(({ data, receivedAt }) => `${JSON.stringify({ receivedAt: iso(receivedAt), ...data })}\n`).join(''),
});

const schema = ({ form }: FormWithCounts): Exported => ({
  type: 'application/schema+json',
  ending: 'schema.json',
  text: JSON.stringify(jsonSchemaOf(form.schema, form.name), null, 2),
});

export const exporters: Record<string, (form: FormWithCounts, samples: SubmissionRow[]) => Exported> = {
  csv,
  ndjson,
  schema,
};
