import { conditionOf, testsOf, withTests, type Condition, type Test } from '../../condition';
import { fieldsOf, rekeyed, sameDefinition, type Call, type Line, type RouteDefinition } from '../../route';
import { compileLine } from '../../request';
import { questionKey, referenceText, scopeOf } from '../../scope';
import { answerOf, asText, isBlank, type Json } from '../../submission';
import type { TargetField } from '../../target';
import { compileChain, newStep, type Step } from '../../transform';
import type { FormChange } from '../forms';
import {
  cleaned,
  filledWhenBlank,
  has,
  onlyWay,
  quoted,
  translating,
  valueWays,
  type Repair,
  type RepairParts,
  type RepairWay,
} from './ways';

/** Proposes what a route would do about a change of its form, the likeliest first; none where nothing would mend it by itself. */
export function repairsForForm(change: FormChange, definition: RouteDefinition, parts: RepairParts): RepairWay[] {
  const { question } = change;
  if (question === null) return [];
  const [was, now] = [asText(change.was ?? null), asText(change.now ?? null)];
  switch (change.change) {
    case 'replaced':
      return onlyWay(rewired(definition, question, was, now));
    case 'option-renamed':
      return onlyWay(renamedOptions(definition, question, [[was, now]]));
    case 'single-to-list':
      return listWays(definition, question, parts);
    case 'gone':
      return goneWays(definition, question, parts);
    case 'notation':
      return isFlags(change.now) && Array.isArray(change.was)
        ? flagWays(definition, question, change.was.map(asText), parts)
        : onlyWay(recleaned(definition, question, parts));
    case 'kind':
    case 'list-to-single':
    case 'option-added':
      return onlyWay(recleaned(definition, question, parts));
    default:
      return [];
  }
}

/** A line that takes nothing but the answer to a question. */
const isOf = ({ source }: Line, key: string): boolean => source?.from === 'field' && source.field === key;

/** What came from one question comes from the other; lines, look-ups and filters take either, while both are sent. */
function rewired(definition: RouteDefinition, question: string, was: string, now: string): Repair | null {
  const [from, to] = [questionKey(question), questionKey(now)];
  const all = rekeyed(definition, new Map([[from, to]]));
  const either = (before: Line, after: Line): Line => {
    // It takes either already.
    if (fieldsOf(before.source).includes(to)) return before;
    if (isOf(before, from)) return { ...after, source: { from: 'first', fields: [to, from] } };
    if (before.source?.from !== 'first') return after;
    const fields = before.source.fields.flatMap(each => (each === from ? [to, from] : [each]));
    return { ...after, source: { from: 'first', fields } };
  };
  const calls = all.calls.map((call, at): Call => {
    const before = definition.calls[at]!;
    return {
      ...call,
      lines: call.lines.map((line, place) => either(before.lines[place]!, line)),
      ...(before.condition && { condition: eitherOf(before.condition, from, to) }),
      ...(call.find && before.find && { find: { ...call.find, line: either(before.find.line, call.find.line) } }),
    };
  });
  const repaired = { ...all, condition: eitherOf(definition.condition, from, to), calls };
  if (sameDefinition(repaired, definition)) return null;
  const words = `Use ${quoted(now)} instead of ${quoted(was)}; where it is missing, ${quoted(was)}.`;
  return { definition: repaired, words: [words] };
}

/** A condition that asks of one of two questions what it asked of the first; where it asks for either already, it is as it was. */
function eitherOf(condition: Condition, from: string, to: string): Condition {
  if (testsOf(condition).some(each => each.field === to)) return condition;
  return withTests(condition, test => {
    if (test.field !== from) return test;
    const both = [{ ...test, field: to }, test];
    // What is not to be said is said by neither; blank is only what is blank under both.
    return conditionOf(test.not === (test.is === 'blank') ? 'any' : 'all', both);
  });
}

const isFlags = (value: Json | undefined): boolean =>
  Array.isArray(value) && value.includes('true') && value.length === 2;

/** What was one of two words is true or false: lines get the words again, where they do not take it as it is. */
function flagWays(definition: RouteDefinition, question: string, words: string[], parts: RepairParts): RepairWay[] {
  const usual = recleaned(definition, question, parts);
  if (usual) return onlyWay(usual);
  const read = compileChain([newStep('yesno.read', { yes: '', no: '' })]);
  const readAs = words.map(each => read.run(each));
  return words.flatMap((yes, at): RepairWay[] => {
    const no = words[1 - at]!;
    // Where one of the words is known to say yes or no, the other says the opposite.
    if (readAs[at] === false || readAs[1 - at] === true) return [];
    const pairs: [string, string][] = [
      [yes, 'true'],
      [no, 'false'],
    ];
    const repair = renamedOptions(definition, question, pairs);
    return repair
      ? [{ way: at === 0 ? 'yesFirst' : 'yesSecond', label: `true is ${quoted(yes)}`, asks: null, repair }]
      : [];
  });
}

/** Lines that draw on a question get its options under the names they had; conditions that ask for one take both names. */
function renamedOptions(
  definition: RouteDefinition,
  question: string,
  pairs: readonly (readonly [was: string, now: string])[],
): Repair | null {
  const key = questionKey(question);
  const words: string[] = [];
  const step = translating(pairs.map(([was, now]) => [now, was]));
  const both = (condition: Condition): Condition =>
    pairs.reduce((made, [was, now]) => withBoth(made, key, was, now, words), condition);
  const calls = definition.calls.map(call => ({
    ...call,
    lines: call.lines.map(line => {
      if (!isOf(line, key) || has(line, step)) return line;
      words.push(`${line.to}: ${pairs.map(([was, now]) => `${quoted(now)} counts as ${quoted(was)}`).join(', ')}.`);
      return { ...line, cleaning: [step, ...line.cleaning] };
    }),
    ...(call.condition && { condition: both(call.condition) }),
  }));
  const condition = both(definition.condition);
  return words.length === 0 ? null : { definition: { ...definition, condition, calls }, words };
}

function withBoth(condition: Condition, key: string, was: string, now: string, words: string[]): Condition {
  const names = (test: Test, option: string) =>
    test.values.some(each => asText(each).trim().toLowerCase() === option.trim().toLowerCase());
  const asks = (test: Test) => test.field === key && names(test, was) && !names(test, now);
  if (!testsOf(condition).some(asks)) return condition;
  words.push(`The filter also accepts ${quoted(now)}.`);
  // What is one of several is asked for as one of several.
  return withTests(condition, test =>
    asks(test) ? { ...test, is: test.is === 'equals' ? 'oneOf' : test.is, values: [...test.values, now] } : test,
  );
}

/** Lines that draw on a question get the cleaning under which most answers are taken, as far as that mends something. */
function recleaned(definition: RouteDefinition, question: string, parts: RepairParts): Repair | null {
  const words: string[] = [];
  const key = questionKey(question);
  const calls = definition.calls.map(call => ({
    ...call,
    lines: call.lines.map(line => {
      if (!isOf(line, key)) return line;
      const field = parts.operationOf(call)?.fields.find(each => each.key === line.to);
      const made = cleaned(line, field, parts, definition);
      if (made) words.push(made.words);
      return made?.line ?? line;
    }),
  }));
  return words.length === 0 ? null : { definition: { ...definition, calls }, words };
}

/** Whether what a line draws from lists in some submissions is not what its field takes. */
const isTroubled = (line: Line, field: TargetField, { samples }: RepairParts, { terms }: RouteDefinition): boolean => {
  const compiled = compileLine({ ...line, whenProblem: 'stop', whenBlank: 'leaveOut' }, field);
  return samples.some(each => compiled.outcome(scopeOf(each), { timeZone: terms.timeZone }).state === 'trouble');
};

/** What was one answer is several: they are joined in one text, or one of them is taken, or there is a call for each. */
function listWays(definition: RouteDefinition, question: string, parts: RepairParts): RepairWay[] {
  const key = questionKey(question);
  const fieldOf = (call: Call, line: Line) => parts.operationOf(call)?.fields.find(each => each.key === line.to);
  const troubled = (call: Call): Line[] =>
    call.lines.filter(line => {
      const field = isOf(line, key) ? fieldOf(call, line) : undefined;
      return field !== undefined && isTroubled(line, field, parts, definition);
    });
  const among = definition.calls.map(call => new Set(troubled(call)));
  const all = definition.calls.flatMap((call, at) => [...among[at]!].map(line => ({ call, line })));
  if (all.length === 0) return [];
  const fills = all.map(({ line }) => line.to).join(', ');
  const withStep = (step: Step): RouteDefinition => ({
    ...definition,
    calls: definition.calls.map((call, at) => ({
      ...call,
      lines: call.lines.map(line =>
        among[at]!.has(line) && !has(line, step) ? { ...line, cleaning: [step, ...line.cleaning] } : line,
      ),
    })),
  });
  const joined: RepairWay = {
    way: 'joined',
    label: 'Joined in one text',
    asks: null,
    repair: {
      definition: withStep(newStep('list.join', { separator: '; ' })),
      words: [`${fills}: all answers in one text, joined with “; ”.`],
    },
  };
  const first: RepairWay = {
    way: 'first',
    label: 'The first only',
    asks: null,
    repair: {
      definition: withStep(newStep('list.item', { number: 1, from: 'start' })),
      words: [`${fills}: the first answer; the others are not sent.`],
    },
  };
  const item = referenceText({ to: 'item', pointer: '' });
  // Who leaves it blank would have no request any more.
  const isRepeatable =
    parts.samples.every(one => !isBlank(answerOf(one, question) ?? null)) &&
    definition.calls.every((call, at) => among[at]!.size === 0 || !call.repeat);
  const each: RepairWay = {
    way: 'each',
    label: 'A request for each',
    asks: null,
    repair: {
      definition: {
        ...definition,
        calls: definition.calls.map((call, at) =>
          among[at]!.size === 0
            ? call
            : {
                ...call,
                repeat: key,
                lines: call.lines.map(line =>
                  among[at]!.has(line) ? { ...line, source: { from: 'field' as const, field: item } } : line,
                ),
              },
        ),
      },
      words: [`${fills}: one request for each answer, and none where there is no answer.`],
    },
  };
  // Of options a joined text is none.
  const isOfOptions = all.some(({ call, line }) => fieldOf(call, line)!.options !== null);
  const own = [...(isOfOptions ? [first] : [joined, first]), ...(isRepeatable ? [each] : [])];
  const usual = recleaned(definition, question, parts);
  const isOwn = own.some(({ repair }) => usual && sameDefinition(repair!.definition, usual.definition));
  return [...own, ...onlyWay(isOwn ? null : usual).map(way => ({ ...way, label: 'With other steps' }))];
}

/** Required fields whose question is gone are filled with one value where it is not answered. */
function goneWays(definition: RouteDefinition, question: string, parts: RepairParts): RepairWay[] {
  const key = questionKey(question);
  const needing = definition.calls.flatMap(call =>
    call.lines.flatMap(line => {
      const field = isOf(line, key) ? parts.operationOf(call)?.fields.find(each => each.key === line.to) : undefined;
      return field?.required && line.whenBlank !== 'fallback' ? [{ line, field }] : [];
    }),
  );
  const [one] = needing;
  // Several fields would want a value each.
  if (!one || needing.some(each => each.field.key !== one.field.key)) return [];
  return valueWays(one.field, parts, (fallback, shown) => ({
    definition: filledWhenBlank(
      definition,
      needing.map(each => each.line),
      fallback,
    ),
    words: [`${one.field.key}: ${shown} where it is not answered.`],
  }));
}
