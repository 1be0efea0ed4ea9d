import { compileCondition } from '../condition';
import { compileLine, missingFrom, usedBy, type CompiledLine, type Outcome } from '../request';
import { scopeOf, type Scope } from '../scope';
import { scopesFor, type LineTotals, type CallParts, type Sample } from './rehearse';

/** One kind of trouble on a line, and for which samples (their places, from 0). */
export interface TroubleGroup {
  /** The problem's code. */
  code: string;
  /** What is said of the first of them. */
  message: string;
  /** How many different things are said of them, and the first few. */
  ways: number;
  said: string[];
  samples: number[];
}

const states = ['fine', 'blank', 'trouble'] as const satisfies readonly Outcome['state'][];
const codes: Record<Outcome['state'], number> = { fine: 0, blank: 1, trouble: 2 };

/** How a line fares over all samples that go. */
export type LineFare = LineTotals & {
  /** Kinds of trouble, the commonest first. */
  troubles: TroubleGroup[];
};

/** A rehearsal without its requests and values: small enough to hand over at every keystroke. */
export interface RehearsalSummary {
  going: number;
  sendable: number;
  /** Keys of required fields that no line fills. */
  missing: string[];
  lines: LineFare[];
  /** Per sample, in their order: 1 when it goes; 1 when its request may be sent. */
  goes: Uint8Array;
  sends: Uint8Array;
  /** Line by line, for each sample: 0 fine, 1 blank, 2 in trouble. */
  states: Uint8Array;
}

/** The place of a line among those that were rehearsed, by its identifier; -1 for one that was not. */
export const placeOfLine = ({ lines }: Pick<RehearsalSummary, 'lines'>, lineId: string): number =>
  lines.findIndex(each => each.lineId === lineId);

/** True for a sample that was there when it was rehearsed. */
export const isRehearsed = (summary: Pick<RehearsalSummary, 'goes'>, sample: number): boolean =>
  sample < summary.goes.length;

/** How a line fares on a sample that was rehearsed; both by their places, from 0. */
export const stateOf = (summary: RehearsalSummary, line: number, sample: number): Outcome['state'] =>
  states[summary.states[line * summary.goes.length + sample]!]!;

/** True for a sample that goes and has a line in trouble, or can't be sent. Of one that was not rehearsed nothing is known. */
export function isTroubled(summary: RehearsalSummary, sample: number): boolean {
  if (summary.goes[sample] !== 1) return false;
  return summary.sends[sample] !== 1 || summary.lines.some((_, line) => stateOf(summary, line, sample) === 'trouble');
}

/** What one line made of the samples so far. */
interface LineResult {
  line: CompiledLine;
  context: CallParts['context'];
  /** What it was made from: the same again gives the same. */
  madeFrom: string;
  states: Uint8Array;
  /** 1 where the request may not go because of this line. */
  stops: Uint8Array;
  /** What is said where it is in trouble, by the sample's place. */
  problems: Map<number, { code: string; message: string }>;
}

/**
 * Rehearses a route again and again over the same samples, as it is edited and as samples come in: only the lines that changed
 * are evaluated anew, a condition only when it changed, and what is known of the samples so far stays.
 */
export class Rehearser {
  private results: LineResult[] = [];
  private goes: { madeFrom: string; values: Uint8Array } | null = null;
  private made: { madeFrom: string; scopes: Scope[][] } | null = null;

  /** @param plain the samples as scopes, where somebody else keeps them and adds to them */
  constructor(
    samples: readonly Sample[] = [],
    private readonly plain: Scope[] = [],
  ) {
    this.add(samples);
  }

  /** Takes more samples, behind those that are there. */
  add(samples: readonly Sample[]): void {
    for (const each of samples) this.plain.push(scopeOf(each.submission));
  }

  rehearse({ condition, call, operation, context, answers, stops: mayStop = true }: CallParts): RehearsalSummary {
    const { scopes, madeFrom: around } = this.madeFor({ call, answers });
    const goes = this.whoGoes(condition, scopes, around);
    const fields = new Map(operation.fields.map(field => [field.key, field]));
    const sources = call.lines.map(line => line.source);
    const before = new Map(this.results.map(each => [each.madeFrom, each]));
    this.results = call.lines.map(line => {
      const field = fields.get(line.to) ?? null;
      const drawsOnAll = line.source?.from === 'rest';
      const madeFrom = JSON.stringify([{ ...line, id: '' }, field, context, drawsOnAll ? sources : null, around]);
      const known = before.get(madeFrom) ?? {
        line: compileLine(line, field, usedBy(call)),
        context,
        madeFrom,
        states: new Uint8Array(),
        stops: new Uint8Array(),
        problems: new Map(),
      };
      return this.evaluated(known, scopes);
    });
    return this.summary(
      goes,
      mayStop,
      call.lines.map(line => line.id),
      missingFrom(call, operation).map(field => field.key),
    );
  }

  /** What the call is made for on each sample; null where that is each sample once. */
  private madeFor({ call, answers }: Pick<CallParts, 'call' | 'answers'>) {
    const isPlain = !call.repeat && !call.condition && !answers;
    if (isPlain) return { madeFrom: '', scopes: null };
    const madeFrom = JSON.stringify([call.repeat, call.condition, answers]);
    if (this.made?.madeFrom !== madeFrom) this.made = { madeFrom, scopes: [] };
    const madeOf = scopesFor({ call, answers });
    for (let at = this.made.scopes.length; at < this.plain.length; at++)
      this.made.scopes.push(madeOf(this.plain[at]!.submission));
    return this.made;
  }

  private whoGoes(condition: CallParts['condition'], scopes: Scope[][] | null, around: string): Uint8Array {
    const madeFrom = JSON.stringify([condition, around]);
    const known = this.goes?.madeFrom === madeFrom ? this.goes.values : new Uint8Array();
    if (known.length === this.plain.length && this.goes?.madeFrom === madeFrom) return known;
    const passes = compileCondition(condition);
    const isMade = (at: number) => scopes === null || scopes[at]!.length > 0;
    const values = grown(known, this.plain.length);
    for (let at = known.length; at < values.length; at++) values[at] = isMade(at) && passes(this.plain[at]!) ? 1 : 0;
    this.goes = { madeFrom, values };
    return values;
  }

  /** A line's result over all samples: those that it knows are not evaluated again. */
  private evaluated(known: LineResult, scopes: Scope[][] | null): LineResult {
    const count = this.plain.length;
    const from = known.states.length;
    if (from === count) return known;
    const { line, context, problems } = known;
    const result = { ...known, states: grown(known.states, count), stops: grown(known.stops, count) };
    if (line.line.source === null) {
      result.states.fill(codes.blank, from);
      return result;
    }
    for (let at = from; at < count; at++) {
      const { state, stops, problem } = scopes
        ? worstOf(scopes[at]!.map(scope => line.outcome(scope, context)))
        : line.outcome(this.plain[at]!, context);
      result.states[at] = codes[state];
      if (stops && !line.waits) result.stops[at] = 1;
      if (problem) problems.set(at, { code: problem.code, message: problem.message });
    }
    return result;
  }

  private summary(goes: Uint8Array, mayStop: boolean, ids: string[], missing: string[]): RehearsalSummary {
    const count = this.plain.length;
    const all = new Uint8Array(count * this.results.length);
    const sends = new Uint8Array(count).fill(missing.length === 0 || !mayStop ? 1 : 0);
    const lines = this.results.map(({ states: own, stops, problems }, index) => {
      all.set(own, index * count);
      const totals = [0, 0, 0];
      for (let at = 0; at < count; at++) {
        if (goes[at] === 1) totals[own[at]!]!++;
        if (stops[at] === 1 && mayStop) sends[at] = 0;
      }
      const [fine, blank, trouble] = totals as [number, number, number];
      return { lineId: ids[index]!, fine, blank, trouble, troubles: groupsOf(problems, goes) };
    });
    let [going, sendable] = [0, 0];
    for (let at = 0; at < count; at++) {
      if (goes[at] !== 1) continue;
      going += 1;
      sendable += sends[at]!;
    }
    return { going, sendable, missing, lines, goes: goes.slice(), sends, states: all };
  }
}

/** The same with room for more, which is 0. */
function grown(before: Uint8Array, count: number): Uint8Array<ArrayBuffer> {
  const after = new Uint8Array(count);
  after.set(before);
  return after;
}

const notMade: Outcome = { state: 'blank', value: undefined, problem: null, stops: false };

/** How a line fares over the items of one sample: as in the worst of them, where blank is worse than fine only if all are. */
function worstOf(outcomes: Outcome[]): Outcome {
  return (
    outcomes.find(each => each.stops) ??
    outcomes.find(each => each.state === 'trouble') ??
    outcomes.find(each => each.state === 'fine') ??
    outcomes[0] ??
    notMade
  );
}

/** Different things said of one kind of trouble that are told apart. */
const MOST_SAID = 6;

function groupsOf(problems: LineResult['problems'], goes: Uint8Array): TroubleGroup[] {
  const groups = new Map<string, { samples: number[]; message: string; said: Set<string> }>();
  for (const [at, { code, message }] of problems) {
    if (goes[at] !== 1) continue;
    const group = groups.get(code) ?? { samples: [], message, said: new Set() };
    group.samples.push(at);
    group.said.add(message);
    groups.set(code, group);
  }
  return [...groups]
    .map(([code, { samples, message, said }]) => ({
      code,
      message,
      ways: said.size,
      said: [...said].slice(0, MOST_SAID),
      samples,
    }))
    .sort((a, b) => b.samples.length - a.samples.length);
}
