import {
  answerOf,
  asText,
  fileIndex,
  isBlank,
  isFile,
  isHttpAddress,
  viaIn,
  isJsonObject,
  type FileValue,
  type Json,
  type Submission,
} from '../submission';
import { compileReference, isOfDelivery, referenceOf, referredTo, type Scope } from '../scope';
import { refusal, type TargetField } from '../target';
import { compileChain, defaultContext, isProblem, Problem, type Chain, type TransformContext } from '../transform';
import { copyLink, withoutCopyLinks } from './copies';
import { flatSegments, keysOf, type Line, type PlainSegment, type Segment, type Source } from '../route';
import { compileList } from './list';
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
  sourceValue(scope: Scope): Json;
  /** The context in which its steps run. */
  contextFor(scope: Scope, context?: TransformContext): TransformContext;
  outcome(scope: Scope, context?: TransformContext): Outcome;
}

const none: ReadonlySet<string> = new Set();

/**
 * Compiles a line once; its functions then take any number of scopes. `used` holds the keys that lines of the same
 * call draw on: what is not among them is what is left.
 */
export function compileLine(line: Line, field: TargetField | null, used: ReadonlySet<string> = none): CompiledLine {
  const chain = compileChain(line.cleaning);
  const fromSource = compileSource(line.source, used);
  const list =
    line.source?.from === 'list' ? compileList(line.source.entries, source => compileSource(source, used)) : null;
  const plainValue = (each: Scope) => withoutCopyLinks(fromSource(each));
  const sourceValue = line.copies ? (each: Scope) => withCopies(plainValue(each), each.submission) : plainValue;
  const contextFor = (scope: Scope, context: TransformContext = defaultContext): TransformContext =>
    chain.looksAround ? { ...context, answer: key => referredTo(scope, key) } : context;
  return {
    line,
    field,
    chain,
    waits: keysOf(line).some(key => isOfDelivery(referenceOf(key))),
    sourceValue,
    contextFor,
    outcome(scope, context) {
      const raw = list ? list(scope, context) : sourceValue(scope);
      if (isProblem(raw)) return troubled(line, field, raw);
      const cleaned =
        chain.faults.length > 0 ? chain.run(raw) : isBlank(raw) ? raw : chain.run(raw, contextFor(scope, context));
      if (isProblem(cleaned)) return troubled(line, field, cleaned);
      if (isBlank(cleaned)) return blank(line, field);
      const refused = field
        ? (refusal(field, cleaned) ?? misplaced(field, cleaned) ?? unknownFile(field, cleaned, scope.submission))
        : noField(line);
      return refused ? troubled(line, field, refused) : fine(cleaned);
    },
  };
}

/** Why a file can't go along: it is none of the submission's, and there is no address to have it from. */
function unknownFile({ key, type }: TargetField, value: Json, submission: Submission): Problem | null {
  if (type !== 'file' && type !== 'base64') return null;
  const unknown = (Array.isArray(value) ? value : [value]).find(
    each => isFile(each) && fileIndex(submission, each) < 0 && !isHttpAddress(each.url ?? '') && !viaIn(each.url),
  );
  return unknown === undefined
    ? null
    : new Problem(
        'file.unknown',
        `${key} takes a file; “${(unknown as FileValue).name}” is not a file of this submission and has no URL.`,
        value,
      );
}

/** Links to files become links to the copies that are made of them as the request leaves. */
function withCopies(value: Json, submission: Submission): Json {
  if (Array.isArray(value)) return value.map(each => withCopies(each, submission));
  const index = isFile(value) ? fileIndex(submission, value) : -1;
  return index < 0 ? value : { ...(value as FileValue), url: copyLink(index, (value as FileValue).name) };
}

function compileSource(source: Source | null, used: ReadonlySet<string>): (scope: Scope) => Json {
  if (source === null) return () => null;
  switch (source.from) {
    case 'constant':
      return () => source.value;
    case 'field':
      return orNull(referring(source.field));
    case 'first': {
      const all = source.fields.map(referring);
      return scope => {
        for (const each of all) {
          const answer = each(scope);
          if (!isBlank(answer)) return answer!;
        }
        return null;
      };
    }
    case 'rest':
      return source.as === 'pairs'
        ? ({ submission }) => restOf(submission, used, linksOf).map(([label, value]) => ({ label, value }))
        : ({ submission }) =>
            restOf(submission, used, textOfAnswer)
              .map(([label, text]) => `${label}${/[?:.!]$/.test(label) ? '' : ':'} ${text}`)
              .join('\n');
    case 'text':
      return compileText(source.segments, source.html === true);
    case 'list': {
      const list = compileList(source.entries, part => compileSource(part, used));
      return scope => {
        const made = list(scope);
        return isProblem(made) ? null : made;
      };
    }
  }
}

const referring = (key: string) => compileReference(referenceOf(key));

const orNull = (value: (scope: Scope) => Json | undefined) => (scope: Scope) => value(scope) ?? null;

function compileText(segments: Segment[], isHtml: boolean): (scope: Scope) => string {
  const written = isHtml ? htmlText : (text: string) => text;
  const hasAnswers = flatSegments(segments).some(each => 'field' in each);
  const plain = (each: PlainSegment): TextPart => {
    if ('text' in each) return () => ({ text: each.text, answers: [] });
    const answer = referring(each.field);
    return scope => {
      const text = written(textOfAnswer(answer(scope)));
      return { text, answers: [text] };
    };
  };
  const parts = segments.map((each): TextPart => {
    if (!('part' in each)) return plain(each);
    const inner = each.part.map(plain);
    return scope => {
      const partValues = inner.map(of => of(scope));
      const answers = partValues.flatMap(one => one.answers);
      // A part says nothing where one of its answers is blank: its words would stand around a hole.
      return { text: answers.includes('') ? '' : partValues.map(one => one.text).join(''), answers };
    };
  });
  return scope => {
    const partValues = parts.map(of => of(scope));
    // A text whose every answer is blank says nothing, whatever stands around them.
    const nothing = hasAnswers && partValues.every(one => one.answers.every(answer => answer === ''));
    return nothing ? '' : partValues.map(one => one.text).join('');
  };
}

/** What a piece of a text says for a scope, and the answers in it. */
type TextPart = (scope: Scope) => { text: string; answers: string[] };

const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };

/** A text as HTML shows it (HTML Standard, “escaping a string”), line breaks as `<br>`. */
const htmlText = (text: string): string =>
  text.replace(/[&<>"']/g, each => entities[each]!).replace(/\r\n?|\n/g, '<br>\n');

/** Every answer that no line uses, a line each: `Question: answer`; files by their names. */
function restOf(
  submission: Submission,
  used: ReadonlySet<string>,
  written: (value: Json | undefined) => string,
): (readonly [label: string, text: string])[] {
  const answers = submission.fields
    .filter(field => !used.has(field.key) && !isBlank(field.value))
    .map(({ label, value }) => [label, written(value)] as const);
  const fileKeys = [...new Set(submission.files.map(file => file.field))].filter(key => !used.has(key));
  const files = fileKeys.map(key => {
    const label = submission.questions.find(each => each.key === key)?.label ?? key;
    return [label, written(answerOf(submission, key))] as const;
  });
  return [...answers, ...files];
}

/** An answer inside a list of labels and values: of files their links, where they have some. */
const linksOf = (value: Json | undefined): string =>
  Array.isArray(value) && value.length > 0 && value.every(isFile)
    ? value.map(each => each.url ?? each.name).join(', ')
    : textOfAnswer(value);

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

const noField = (line: Line) => new Problem('target.noField', `The target no longer has a field “${line.to}”.`, null);

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
