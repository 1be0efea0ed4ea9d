import Papa from 'papaparse';
import { explainCondition, type Condition } from '../condition';
import { untakenLines } from '../perform';
import { compileCall, type CompiledLine } from '../request';
import { fieldsOf, writingWords, type Call, type Line, type ListEntry, type Segment, withFields } from '../route';
import type { Scope } from '../scope';
import { asText, isBlank, type Json } from '../submission';
import type { Operation, TargetField } from '../target';
import type { TransformContext } from '../transform';

/** One line of a mapping as people read it. */
export interface SheetRow {
  number: number;
  /** What it comes from, in words. */
  question: string;
  /** The cleaning in words; empty for none. */
  cleaning: string;
  field: string;
  /** The field's label, where it has another than its key. */
  label: string;
  type: string;
  required: boolean;
  /** What happens to a blank and to a value in trouble, in words. */
  otherwise: string;
  /** The answer of the example and what becomes of it. */
  answer: string;
  value: string;
}

/** A mapping as a readable table, to hand over to those who look after either side. */
export interface Sheet {
  title: string;
  form: string;
  target: string;
  /** Method and address. */
  request: string;
  /** Which submissions go, in words. */
  condition: string;
  rows: SheetRow[];
  /** Questions that no line uses; fields that no line fills. */
  unused: string[];
  unfilled: string[];
}

export interface SheetParts {
  title: string;
  form: string;
  target: string;
  condition: Condition;
  call: Call;
  operation: Operation;
  /** What updates a record that is found, where one is looked for. */
  update?: Operation | null;
  baseUrl: string;
  context: TransformContext;
  /** The questions of the form by their keys. */
  questions: { key: string; label: string }[];
  labelOf(key: string): string;
  /** The scope whose answers stand as examples. */
  example: Scope | null;
}

const blanks: Record<Line['whenBlank'], (line: Line) => string> = {
  leaveOut: () => 'blank: left out',
  null: () => 'blank: null',
  empty: () => 'blank: empty text',
  fallback: line => `blank: ${asText(line.fallback)}`,
  stop: () => 'blank: held',
};
const problems: Record<Line['whenProblem'], (line: Line) => string> = {
  stop: () => 'unreadable: held',
  leaveOut: () => 'unreadable: left out',
  fallback: line => `unreadable: ${asText(line.fallback)}`,
};

/** The sheet of a route's call. Lines that nothing fills are not on it; their fields are named at the end. */
export function sheetOf(parts: SheetParts): Sheet {
  const compiled = compileCall(parts.call, parts.operation, parts.baseUrl);
  const drawn = compiled.lines.filter(each => each.line.source !== null);
  const used = new Set(drawn.flatMap(each => fieldsOf(each.line.source)));
  const usesRest = drawn.some(each => each.line.source?.from === 'rest');
  const filled = new Set(drawn.map(each => each.line.to));
  const always = parts.operation.fields.filter(each => each.fixed !== undefined && !filled.has(each.key));
  const { find } = parts.call;
  const untaken = new Set(
    find?.update && parts.update ? untakenLines(parts.call, find, parts.operation, parts.update) : [],
  );
  return {
    title: parts.title,
    form: parts.form,
    target: parts.target,
    request: `${parts.operation.method} ${parts.baseUrl.replace(/\/$/, '')}${parts.operation.path}`,
    condition: explainCondition(parts.condition, parts.labelOf),
    rows: [
      ...drawn.map((line, index) => rowOf(line, index + 1, parts, untaken)),
      ...always.map((field, index) => fixedRow(field, drawn.length + index + 1)),
    ],
    unused: usesRest ? [] : parts.questions.filter(each => !used.has(each.key)).map(each => each.label),
    unfilled: parts.operation.fields
      .filter(each => !each.readOnly && !filled.has(each.key) && each.fixed === undefined)
      .map(each => each.key),
  };
}

function rowOf(
  { line, field, chain, sourceValue, outcome }: CompiledLine,
  number: number,
  parts: SheetParts,
  untaken: ReadonlySet<Line>,
): SheetRow {
  const answer = parts.example ? sourceValue(parts.example) : null;
  const given = parts.example ? outcome(parts.example, parts.context) : null;
  return {
    number,
    question: sourceWords(line, parts.labelOf),
    cleaning: chain.explain.join(', then '),
    field: line.to,
    label: field && field.label !== field.key ? field.label : '',
    type: field?.type ?? 'gone',
    required: field?.required ?? false,
    otherwise: [
      otherwiseOf(line, field?.required ?? false),
      ...(parts.call.find?.update
        ? [`found: ${untaken.has(line) ? 'not written' : writingWords[line.writes ?? 'always']}`]
        : []),
    ].join('; '),
    answer: shown(answer),
    value: given?.problem ? `! ${given.problem.message}` : shown(given?.value ?? null),
  };
}

/** A field that is always the same, as the target’s operation says. */
const fixedRow = ({ key, label, type, required, fixed }: TargetField, number: number): SheetRow => ({
  number,
  question: `always “${asText(fixed)}”`,
  cleaning: '',
  field: key,
  label: label === key ? '' : label,
  type,
  required,
  otherwise: '',
  answer: '',
  value: shown(fixed!),
});

/** What happens to blanks and to what can't be read. A required field holds the submission rather than go without. */
function otherwiseOf(line: Line, required: boolean): string {
  const holdsBlank = required && (line.whenBlank === 'leaveOut' || line.whenBlank === 'null');
  const holdsProblem = required && line.whenProblem === 'leaveOut';
  return [
    blanks[holdsBlank ? 'stop' : line.whenBlank](line),
    problems[holdsProblem ? 'stop' : line.whenProblem](line),
  ].join('; ');
}

export function sourceWords({ source }: Pick<Line, 'source'>, labelOf: (key: string) => string): string {
  switch (source?.from) {
    case 'field':
      return labelOf(source.field);
    case 'first':
      return `first non-empty of ${source.fields.map(labelOf).join(', ')}`;
    case 'text':
      return withFields(source.segments, labelOf).map(segmentWords).join('');
    case 'constant':
      return `always “${asText(source.value)}”`;
    case 'rest':
      return 'everything that no other line uses';
    case 'list':
      return source.entries.map(entry => entryWords(entry, labelOf)).join('; ');
    default:
      return '';
  }
}

const segmentWords = (each: Segment): string =>
  'part' in each ? `[${each.part.map(segmentWords).join('')}]` : 'text' in each ? each.text : `{${each.field}}`;

/** An entry of a list in words: `for each of “Kits”: name = kit of the item, amount = always “1”`. */
function entryWords({ each, as, parts }: ListEntry, labelOf: (key: string) => string): string {
  const phrases = parts.map(part => {
    const words = sourceWords(part, labelOf) || 'nothing yet';
    return as === 'object' ? `${part.name || '…'} = ${words}` : words;
  });
  return `${each ? `for each of “${labelOf(each)}”: ` : ''}${phrases.join(', ')}`;
}

const shown = (value: Json): string => {
  if (isBlank(value)) return '';
  const items = Array.isArray(value) ? value : [value];
  return items
    .map(item => (typeof item === 'object' && item !== null && 'name' in item ? asText(item.name) : asText(item)))
    .join(', ');
};

const columns: [heading: string, of: (row: SheetRow) => string][] = [
  ['No.', row => String(row.number)],
  ['Question', row => row.question],
  ['Cleaning', row => row.cleaning],
  ['Field', row => `${row.field}${row.required ? ' *' : ''}`],
  ['Type', row => row.type],
  ['If blank or invalid', row => row.otherwise],
  ['Example answer', row => row.answer],
  ['Example value', row => row.value],
];

/** The sheet as a Markdown table (pipes escaped, line breaks as `<br>`). */
export function sheetMarkdown(sheet: Sheet): string {
  const cell = (text: string) => text.replace(/[\\|<>*_`[\]]/g, '\\$&').replace(/\r?\n/g, '<br>');
  const line = (cells: string[]) => `| ${cells.join(' | ')} |`;
  return [
    `# ${cell(sheet.title)}`,
    '',
    `From **${cell(sheet.form)}** to **${cell(sheet.target)}**: \`${sheet.request}\``,
    '',
    `Goes: ${cell(sheet.condition)}.`,
    '',
    line(columns.map(([heading]) => heading)),
    line(columns.map(() => '---')),
    ...sheet.rows.map(row => line(columns.map(([, of]) => cell(of(row))))),
    '',
    ...(sheet.unused.length > 0 ? [`Not used: ${sheet.unused.map(cell).join(', ')}.`] : []),
    ...(sheet.unfilled.length > 0 ? [`Not filled: ${sheet.unfilled.map(cell).join(', ')}.`] : []),
    '* is required.',
    '',
  ].join('\n');
}

/** The sheet's lines as CSV (RFC 4180); cells that a spreadsheet would take for a formula are kept from it. */
export const sheetCsv = (sheet: Sheet): string =>
  Papa.unparse(
    { fields: columns.map(([heading]) => heading), data: sheet.rows.map(row => columns.map(([, of]) => of(row))) },
    { escapeFormulae: true, newline: '\r\n' },
  ) + '\r\n';
