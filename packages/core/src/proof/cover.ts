import { compileCondition, testsOf } from '../condition';
import { scopesOf, type Stage } from '../perform';
import type { Outcome } from '../request';
import { fieldsOf } from '../route';
import { referredTo, scopeOf } from '../scope';
import { asText, isBlank, isFile, type Json, type Submission } from '../submission';
import type { Play } from './enact';

/** Different answers of one question that are told apart as options: more are no options. */
const MOST_OPTIONS = 40;

/** Samples that were chosen to be proved, and what they leave uncovered. */
export interface Cover {
  /** Places of the chosen, in the order in which they cover most; what each is the first to show, in words. */
  chosen: { place: number; shows: string[] }[];
  /** What no sample shows, in words. */
  uncovered: string[];
}

/**
 * What a submission exercises of a route, in words: whether it goes, how each line fares, the options that its answers hold, how many
 * files, and each test of a condition either way.
 */
export function exercised({ stages, condition, context }: Play, submission: Submission): string[] {
  const scope = scopeOf(submission);
  const goes = compileCondition(condition)(scope);
  const seen = [goes ? 'it goes' : 'it does not go'];
  for (const [index, test] of testsOf(condition).entries())
    seen.push(`condition ${index + 1}, ${test.field}: ${compileCondition({ all: [test] })(scope) ? 'met' : 'not met'}`);
  if (!goes) return seen;
  // Of several calls each is named.
  for (const stage of stages)
    seen.push(...ofStage(stage, submission, context, stages.length > 1 ? `${stage.main.operation.label}, ` : ''));
  return seen;
}

function ofStage(stage: Stage, submission: Submission, context: Play['context'], name: string): string[] {
  const { call, main, goes, waits } = stage;
  if (waits) return [];
  const scopes = scopesOf(call, goes, scopeOf(submission));
  const seen = call.repeat || call.condition ? [`${name}call: ${amount(scopes.length)}`] : [];
  for (const scope of scopes.slice(0, 3)) {
    const { outcomes } = main.plan(scope, context);
    outcomes.forEach((outcome, index) => {
      const { line } = main.lines[index]!;
      if (line.source === null) return;
      const where = `${name}${line.to}`;
      seen.push(`${where}: ${stateWords(outcome)}`);
      const isMatched = line.cleaning.some(({ id, off }) => !off && matching.includes(id));
      for (const key of fieldsOf(line.source))
        seen.push(...answersOf(where, referredTo(scope, key), isMatched || isChosen(submission, key)));
    });
  }
  return seen;
}

const stateWords = ({ state, problem }: Outcome) => (state === 'trouble' ? `problem, ${problem?.code ?? ''}` : state);
const amount = (count: number) => (count === 0 ? 'not made' : count === 1 ? 'made once' : 'made several times');

/** Steps for which each answer is a case of its own. */
const matching = ['choice.match', 'choice.other', 'lookup.table', 'yesno.read', 'list.flags', 'logic.when'];

/** True for a question that people answer by choosing. */
const isChosen = ({ fields }: Submission, key: string): boolean =>
  ['choice', 'choices', 'boolean'].includes(fields.find(each => each.key === key)?.kind ?? '');

/** The options in an answer, where it has any, and how many files. */
function answersOf(where: string, answer: Json | undefined, hasOptions: boolean): string[] {
  if (isBlank(answer)) return [];
  const items = Array.isArray(answer) ? answer : [answer!];
  if (items.some(isFile)) return [`${where}: ${items.length === 1 ? 'one file' : 'several files'}`];
  const many = Array.isArray(answer) ? [`${where}: ${items.length === 1 ? 'one item' : 'several items'}`] : [];
  return [
    ...many,
    ...(hasOptions ? items : [])
      .filter(each => typeof each !== 'object')
      .map(each => `${where} is “${asText(each).slice(0, 60)}”`),
  ];
}

/**
 * The smallest set of samples that exercises whatever any of them does: the best one first, again and again; then whatever can be left
 * away, or be done by one in place of two, is.
 * @param exercisedBy what each sample exercises, by its place
 */
export function coverOf(exercisedBy: readonly (readonly string[])[]): Cover {
  const features = optionsOnly(exercisedBy);
  const sets = exercisedBy.map(each => new Set(each.filter(feature => features.has(feature))));
  const left = new Set(sets.flatMap(each => [...each]));
  let chosen: number[] = [];
  while (left.size > 0) {
    let [best, gain] = [-1, 0];
    sets.forEach((set, place) => {
      const own = [...set].filter(each => left.has(each)).length;
      if (own > gain) [best, gain] = [place, own];
    });
    if (best < 0) break;
    chosen.push(best);
    for (const each of sets[best]!) left.delete(each);
  }
  chosen = fewer(chosen, sets);
  const shown = new Set<string>();
  const ordered = chosen
    .map(place => ({ place, size: sets[place]!.size }))
    .sort((a, b) => b.size - a.size || a.place - b.place)
    .map(({ place }) => {
      const shows = [...sets[place]!].filter(each => !shown.has(each));
      shows.forEach(each => shown.add(each));
      return { place, shows };
    });
  return { chosen: ordered, uncovered: uncoveredIn(features) };
}

/** Values of a question count as options where there are few of them; every other feature counts. */
function optionsOnly(exercisedBy: readonly (readonly string[])[]): Set<string> {
  const all = new Set(exercisedBy.flat());
  const values = new Map<string, string[]>();
  for (const each of all) {
    const [, where] = /^(.*) is “/s.exec(each) ?? [];
    if (where !== undefined) values.set(where, [...(values.get(where) ?? []), each]);
  }
  const total = exercisedBy.length;
  // What nearly everybody says otherwise is no choice.
  for (const [, own] of values)
    if (own.length > MOST_OPTIONS || (own.length > 6 && own.length > total / 3)) own.forEach(each => all.delete(each));
  return all;
}

/** The same cover with whatever can be spared left away: one by one, then two for one. */
function fewer(chosen: readonly number[], sets: readonly ReadonlySet<string>[]): number[] {
  const covers = (places: readonly number[]) => new Set(places.flatMap(each => [...sets[each]!])).size;
  const whole = covers(chosen);
  let kept = [...chosen];
  for (const each of [...chosen].reverse()) {
    const without = kept.filter(other => other !== each);
    if (covers(without) === whole) kept = without;
  }
  for (let again = true; again && kept.length <= 40;) {
    again = false;
    search: for (let a = 0; a < kept.length; a++)
      for (let b = a + 1; b < kept.length; b++) {
        const rest = kept.filter((_, at) => at !== a && at !== b);
        const lacking = whole - covers(rest);
        const one = sets.findIndex((set, place) => set.size >= lacking && covers([...rest, place]) === whole);
        if (one < 0) continue;
        kept = [...rest, one];
        again = true;
        break search;
      }
  }
  return kept;
}

/** What would show more of a route, and no sample does: the other way of a test, a blank, a trouble. */
function uncoveredIn(features: ReadonlySet<string>): string[] {
  const missing: string[] = [];
  const expect = (feature: string) => void (features.has(feature) || missing.push(feature));
  for (const each of features) {
    if (each.endsWith(': met')) expect(each.replace(/met$/, 'not met'));
    if (each.endsWith(': not met')) expect(each.replace(/not met$/, 'met'));
    if (each.endsWith(': fine')) expect(each.replace(/fine$/, 'blank'));
    if (each.endsWith(': one file')) expect(each.replace(/one file$/, 'several files'));
    if (each.endsWith(': several files')) expect(each.replace(/several files$/, 'one file'));
  }
  return [...new Set(missing)].sort();
}
