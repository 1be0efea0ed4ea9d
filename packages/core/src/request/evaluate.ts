import {
  asText,
  fileIndex,
  isBlank,
  isFile,
  isJsonObject,
  isOfDelivery,
  referredTo,
  type FileValue,
  type Json,
  type Submission,
} from '../submission';
import { refusal, type TargetField } from '../target';
import { compileChain, defaultContext, isProblem, Problem, type Chain, type TransformContext } from '../transform';
import { copyLink, withoutCopyLinks } from './copies';
import { keysOf, type Line, type Segment, type Source } from '../route';
import { placeFault } from './parameters';

/** How a line fares on one submission. */
export interface Outcome {
  /** fine: a value is sent. blank: nothing to send. trouble: it can't be sent as it is. */
  state: 'fine' | 'blank' | 'trouble';
  /** The value that goes into the request; undefined when the field is left out. */
  value: Json | undefined;
  problem: Problem | null;
  /** True when the request may not go because of this line. */
  stops: boolean;
}

export interface CompiledLine {
  line: Line;
  field: TargetField | null;
  chain: Chain;
  /** True when it draws on what is known only while a delivery is under way. */
  waits: boolean;
  /** The value before cleaning. */
  sourceValue(submission: Submission): Json;
  /** The context in which its steps run on this submission. */
  contextFor(submission: Submission, context?: TransformContext): TransformContext;
  outcome(submission: Submission, context?: TransformContext): Outcome;
}

const none: ReadonlySet<string> = new Set();

/**
 * Compiles a line once; its functions then take any number of submissions. `used` holds the keys that lines of the same
 * call draw on: what is not among them is what is left.
 */
export function compileLine(line: Line, field: TargetField | null, used: ReadonlySet<string> = none): CompiledLine {
  const chain = compileChain(line.cleaning);
  const fromSource = compileSource(line.source, used);
  const plainValue = (each: Submission) => withoutCopyLinks(fromSource(each));
  const sourceValue = line.copies ? (each: Submission) => withCopies(plainValue(each), each) : plainValue;
  const contextFor = (submission: Submission, context: TransformContext = defaultContext): TransformContext =>
    chain.looksAround ? { ...context, answer: key => referredTo(submission, key) } : context;
  return {
    line,
    field,
    chain,
    waits: keysOf(line).some(isOfDelivery),
    sourceValue,
    contextFor,
    outcome(submission, context) {
      const raw = sourceValue(submission);
      const cleaned =
        chain.faults.length > 0 ? chain.run(raw) : isBlank(raw) ? raw : chain.run(raw, contextFor(submission, context));
      if (isProblem(cleaned)) return troubled(line, field, cleaned);
      if (isBlank(cleaned)) return blank(line, field);
      const refused = field ? (refusal(field, cleaned) ?? misplaced(field, cleaned)) : noField(line);
      return refused ? troubled(line, field, refused) : fine(cleaned);
    },
  };
}

/** Links to files become links to the copies that are made of them as the request leaves. */
function withCopies(value: Json, submission: Submission): Json {
  if (Array.isArray(value)) return value.map(each => withCopies(each, submission));
  const index = isFile(value) ? fileIndex(submission, value) : -1;
  return index < 0 ? value : { ...(value as FileValue), url: copyLink(index, (value as FileValue).name) };
}

function compileSource(source: Source | null, used: ReadonlySet<string>): (submission: Submission) => Json {
  if (source === null) return () => null;
  switch (source.from) {
    case 'constant':
      return () => source.value;
    case 'field':
      return submission => referredTo(submission, source.field) ?? null;
    case 'first':
      return submission => {
        const filled = source.fields.find(key => !isBlank(referredTo(submission, key)));
        return filled === undefined ? null : referredTo(submission, filled)!;
      };
    case 'rest':
      return submission => restOf(submission, used);
    case 'text':
      return submission => textFrom(source.segments, submission, source.html === true);
  }
}

function textFrom(segments: Segment[], submission: Submission, isHtml: boolean): string {
  const written = isHtml ? htmlText : (text: string) => text;
  const answers = segments.map(each =>
    'text' in each ? each.text : written(textOfAnswer(referredTo(submission, each.field))),
  );
  // A text whose every answer is blank says nothing, whatever stands around them.
  const nothing =
    segments.some(each => 'field' in each) && segments.every((each, index) => 'text' in each || answers[index] === '');
  return nothing ? '' : answers.join('');
}

const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };

/** A text as HTML shows it (HTML Standard, “escaping a string”), line breaks as `<br>`. */
const htmlText = (text: string): string =>
  text.replace(/[&<>"']/g, each => entities[each]!).replace(/\r\n?|\n/g, '<br>\n');

/** Every answer that no line uses, a line each: `Question: answer`; files by their names. */
function restOf(submission: Submission, used: ReadonlySet<string>): string {
  const answers = submission.fields
    .filter(field => !used.has(field.key) && !isBlank(field.value))
    .map(({ label, value }) => [label, textOfAnswer(value)] as const);
  const fileKeys = [...new Set(submission.files.map(file => file.field))].filter(key => !used.has(key));
  const files = fileKeys.map(key => {
    const label = submission.questions.find(each => each.key === key)?.label ?? key;
    return [label, textOfAnswer(referredTo(submission, key))] as const;
  });
  return [...answers, ...files]
    .map(([label, text]) => `${label}${/[?:.!]$/.test(label) ? '' : ':'} ${text}`)
    .join('\n');
}

/** An answer inside a text: the names of files, the cells of tables, the rest as text. */
export function textOfAnswer(value: Json | undefined): string {
  const one = (item: Json): string =>
    isFile(item)
      ? item.name
      : isJsonObject(item)
        ? Object.entries(item)
            .filter(([, cell]) => !isBlank(cell))
            .map(([name, cell]) => `${name} ${asText(cell)}`)
            .join(', ')
        : asText(item);
  return Array.isArray(value)
    ? value
        .map(one)
        .filter(Boolean)
        .join(value.some(isJsonObject) ? '; ' : ', ')
    : one(value ?? null);
}

const misplaced = (field: TargetField, value: Json) =>
  field.in ? placeFault({ in: field.in, name: field.pointer, value }) : null;

const fine = (value: Json): Outcome => ({ state: 'fine', value, problem: null, stops: false });

const noField = (line: Line) => new Problem('target.noField', `The target has no field “${line.to}” any more.`, null);

function blank(line: Line, field: TargetField | null): Outcome {
  if (line.whenBlank === 'fallback') return withFallback(line, field, null);
  const stopped = line.whenBlank === 'stop';
  const isInPath = field?.in === 'path';
  if (stopped || isInPath || (field?.required && line.whenBlank !== 'empty')) {
    const problem = new Problem(
      'line.blank',
      `${line.to} is ${isInPath ? 'part of the address' : field?.required ? 'required' : 'set to stop when blank'}, and this submission has no answer for it.`,
      null,
    );
    return { state: 'trouble', value: undefined, problem, stops: true };
  }
  const value = line.whenBlank === 'null' ? null : line.whenBlank === 'empty' ? '' : undefined;
  return { state: 'blank', value, problem: null, stops: false };
}

function troubled(line: Line, field: TargetField | null, problem: Problem): Outcome {
  if (line.whenProblem === 'fallback') return withFallback(line, field, problem);
  const stops = line.whenProblem === 'stop' || field?.required === true || field?.in === 'path';
  return { state: 'trouble', value: undefined, problem, stops };
}

function withFallback(line: Line, field: TargetField | null, reason: Problem | null): Outcome {
  const refused = field ? (refusal(field, line.fallback) ?? misplaced(field, line.fallback)) : null;
  if (refused) return { state: 'trouble', value: undefined, problem: refused, stops: true };
  return { state: reason ? 'trouble' : 'fine', value: line.fallback, problem: reason, stops: false };
}
