import { testsOf, type Condition, type Test } from '../condition';
import { isLikely, propose, remedyFor } from '../match';
import { fieldsOf, newLine, operationsUsed, rekeyed, type Call, type Line, type RouteDefinition } from '../route';
import Papa from 'papaparse';
import type { FormSchema } from '../schema';
import { questionKey } from '../scope';
import { asText, canonical, type Json, type Submission } from '../submission';
import type { Operation, TargetField } from '../target';
import type { Step } from '../transform';
import type { FormChange } from './forms';
import { fieldPlace, operationName, type DocumentChange } from './documents';

/** A definition that does what a changed form or target asks for, and what was done to it, in words. */
export interface Repair {
  definition: RouteDefinition;
  words: string[];
}

/** What a repair is made with: the form as it is now, its newest submissions, and what the targets offer now. */
export interface RepairParts {
  schema: FormSchema;
  /** Such as came since the change. */
  samples: readonly Submission[];
  operationOf(call: Pick<Call, 'targetId' | 'operationId'>): Operation | null;
}

const quoted = (text: string) => `“${text}”`;

/** A step that gives one value for another, and leaves any other as it is. */
const translating = (from: string, to: string): Step => ({
  id: 'lookup.table',
  params: { table: Papa.unparse([[from, to]]), otherwise: 'keep' },
});

/** True where a line has a step already: what is mended once is not mended again. */
const has = ({ cleaning }: Line, step: Step): boolean =>
  cleaning.some(each => canonical(each as unknown as Json) === canonical(step as unknown as Json));

/** A line with the cleaning under which most of its answers are taken, and what it is said to do; null where it takes none more. */
function cleaned(
  line: Line,
  field: TargetField | undefined,
  { schema, samples }: RepairParts,
  { terms }: RouteDefinition,
): { line: Line; words: string } | null {
  const key = line.source?.from === 'field' ? line.source.field : null;
  const asked = schema.fields.find(each => questionKey(each.key) === key);
  const remedy = field && asked ? remedyFor(line, field, asked, samples, { timeZone: terms.timeZone }) : null;
  if (!remedy) return null;
  const { cleaning, words, fine, of, now } = remedy;
  return {
    line: { ...line, cleaning },
    words: `${line.to}: ${words}; ${fine} of ${of} answers are valid, ${now} before.`,
  };
}

/** Proposes what a route would do about a change of its form; null where there is nothing that would mend it by itself. */
export function repairForForm(change: FormChange, definition: RouteDefinition, parts: RepairParts): Repair | null {
  const { question } = change;
  if (question === null) return null;
  const [was, now] = [asText(change.was ?? null), asText(change.now ?? null)];
  switch (change.change) {
    case 'replaced':
      return rewired(definition, question, was, now);
    case 'option-renamed':
      return renamedOption(definition, question, was, now);
    case 'kind':
    case 'notation':
    case 'single-to-list':
    case 'list-to-single':
    case 'option-added':
      return recleaned(definition, question, parts);
    default:
      return null;
  }
}

/** What came from one question comes from the other; a line that takes nothing else takes either, while both are sent. */
function rewired(definition: RouteDefinition, question: string, was: string, now: string): Repair | null {
  const [from, to] = [questionKey(question), questionKey(now)];
  const all = rekeyed(definition, new Map([[from, to]]));
  const calls = all.calls.map((call, at) => ({
    ...call,
    lines: call.lines.map((line, place): Line => {
      const before = definition.calls[at]!.lines[place]!;
      // It takes either already.
      if (fieldsOf(before.source).includes(to)) return before;
      return before.source?.from === 'field' && before.source.field === from
        ? { ...line, source: { from: 'first', fields: [to, from] } }
        : line;
    }),
  }));
  if (JSON.stringify({ ...all, calls }) === JSON.stringify(definition)) return null;
  const words = `Use ${quoted(now)} instead of ${quoted(was)}; where it is missing, ${quoted(was)}.`;
  return { definition: { ...all, calls }, words: [words] };
}

/** Lines that draw on a question get the option under the name it had; conditions that ask for it take both names. */
function renamedOption(definition: RouteDefinition, question: string, was: string, now: string): Repair | null {
  const key = questionKey(question);
  const words: string[] = [];
  const calls = definition.calls.map(call => ({
    ...call,
    lines: call.lines.map(line => {
      const step = translating(now, was);
      if (line.source?.from !== 'field' || line.source.field !== key || has(line, step)) return line;
      words.push(`${line.to}: ${quoted(now)} counts as ${quoted(was)}.`);
      return { ...line, cleaning: [step, ...line.cleaning] };
    }),
    ...(call.condition && { condition: withBoth(call.condition, key, was, now, words) }),
  }));
  const condition = withBoth(definition.condition, key, was, now, words);
  return words.length === 0 ? null : { definition: { ...definition, condition, calls }, words };
}

function withBoth(condition: Condition, key: string, was: string, now: string, words: string[]): Condition {
  const names = (test: Test, option: string) =>
    test.values.some(each => asText(each).trim().toLowerCase() === option.trim().toLowerCase());
  const asks = (test: Test) => test.field === key && names(test, was) && !names(test, now);
  if (!testsOf(condition).some(asks)) return condition;
  words.push(`The filter also accepts ${quoted(now)}.`);
  const walk = <T extends Condition | Test>(part: T): T => {
    if ('field' in part) {
      if (!asks(part)) return part;
      // What is one of several is asked for as one of several.
      const is = part.is === 'equals' ? 'oneOf' : part.is;
      return { ...part, is, values: [...part.values, now] };
    }
    const [[mode, all]] = Object.entries(part) as [[string, (Condition | Test)[]]];
    return { [mode]: all.map(walk) } as unknown as T;
  };
  return walk(condition);
}

/** Lines that draw on a question get the cleaning under which most answers are taken, as far as that mends something. */
function recleaned(definition: RouteDefinition, question: string, parts: RepairParts): Repair | null {
  const words: string[] = [];
  const key = questionKey(question);
  const calls = definition.calls.map(call => ({
    ...call,
    lines: call.lines.map(line => {
      if (line.source?.from !== 'field' || line.source.field !== key) return line;
      const field = parts.operationOf(call)?.fields.find(each => each.key === line.to);
      const made = cleaned(line, field, parts, definition);
      if (made) words.push(made.words);
      return made?.line ?? line;
    }),
  }));
  return words.length === 0 ? null : { definition: { ...definition, calls }, words };
}

/** Proposes what a route would do about a change of one of its targets; `field` and `operation` as the change tells them. */
export function repairForTarget(
  change: DocumentChange,
  targetId: string,
  definition: RouteDefinition,
  parts: RepairParts & { before: readonly Operation[]; after: readonly Operation[] },
): Repair | null {
  const before = parts.before.find(each => operationName(each) === change.operation);
  if (before && change.change === 'operation-moved') {
    const after = parts.after.find(each => operationName(each) === asText(change.now ?? null));
    return after ? movedCalls(definition, targetId, before, after) : null;
  }
  if (!before || change.field === undefined) return null;
  const words: string[] = [];
  const calls = definition.calls.map(call =>
    call.targetId === targetId && call.operationId === before.id
      ? { ...call, lines: mended(change, call, before, definition, parts, words) }
      : call,
  );
  return words.length === 0 ? null : { definition: { ...definition, calls }, words };
}

/** Calls that use an operation use the other in its place: to write, to find, to update, to read back. */
function movedCalls(
  definition: RouteDefinition,
  targetId: string,
  before: Pick<Operation, 'id' | 'method' | 'path'>,
  after: Pick<Operation, 'id' | 'method' | 'path'>,
): Repair | null {
  if (after.id === before.id || !operationsUsed(definition, targetId).includes(before.id)) return null;
  const moved = <T extends { operationId: string }>(part: T): T =>
    part.operationId === before.id ? { ...part, operationId: after.id } : part;
  const calls = definition.calls.map(call =>
    call.targetId === targetId
      ? {
          ...moved(call),
          ...(call.find && { find: { ...moved(call.find), update: call.find.update && moved(call.find.update) } }),
          ...(call.readBack && { readBack: moved(call.readBack) }),
        }
      : call,
  );
  const words = [`Use ${operationName(after)} instead of ${operationName(before)}.`];
  return { definition: { ...definition, calls }, words };
}

const keyAt = (of: Operation | null, place: string): string | undefined =>
  of?.fields.find(each => fieldPlace(each) === place)?.key;

/** The lines of a call after a change of what it writes to; says what was done to them. */
function mended(
  change: DocumentChange,
  call: Call,
  before: Operation,
  definition: RouteDefinition,
  parts: RepairParts,
  words: string[],
): Line[] {
  const field = change.field!;
  const now = parts.operationOf(call);
  const key = keyAt(before, field) ?? keyAt(now, field);
  const on = (to: string | undefined, edit: (line: Line) => Line): Line[] =>
    call.lines.map(line => (line.to === to && line.source !== null ? edit(line) : line));
  switch (change.change) {
    case 'field-renamed': {
      const to = keyAt(now, asText(change.now ?? null));
      if (to === undefined || !call.lines.some(line => line.to === key)) return call.lines;
      words.push(`The line for ${quoted(key ?? field)} fills ${quoted(to)}.`);
      return call.lines
        .filter(line => line.to !== to || line.source !== null)
        .map(line => (line.to === key ? { ...line, to } : line));
    }
    case 'option-renamed': {
      const [was, is] = [asText(change.was ?? null), asText(change.now ?? null)];
      return on(key, line => {
        const step = translating(was, is);
        if (has(line, step)) return line;
        words.push(`${line.to}: ${quoted(was)} is sent as ${quoted(is)}.`);
        return { ...line, cleaning: [...line.cleaning, step] };
      });
    }
    case 'field-added':
    case 'required': {
      const added = now?.fields.find(each => each.key === keyAt(now, field));
      if (!added?.required || !now || call.lines.some(line => line.to === added.key && line.source !== null))
        return call.lines;
      const proposal = propose(parts.schema, [...parts.samples], now).find(each => each.to === added.key);
      if (!proposal || !isLikely(proposal)) return call.lines;
      words.push(`New line for ${quoted(added.key)}: ${proposal.why}`);
      const line: Line = {
        ...(call.lines.find(each => each.to === added.key) ?? newLine(`${call.id}-${added.key}`, added.key)),
        source: proposal.source,
        cleaning: proposal.cleaning,
      };
      return [...call.lines.filter(each => each.to !== added.key), line];
    }
    case 'type':
    case 'format':
    case 'narrowed':
    case 'option-gone': {
      const target = now?.fields.find(each => each.key === key);
      return on(key, line => {
        const made = cleaned(line, target, parts, definition);
        if (made) words.push(made.words);
        return made?.line ?? line;
      });
    }
    default:
      return call.lines;
  }
}
