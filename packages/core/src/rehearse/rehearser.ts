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
  /** How many different things are said of them. */
  ways: number;
  samples: number[];
}

const states = ['fine', 'blank', 'trouble'] as const satisfies readonly Outcome['state'][];
const codes: Record<Outcome['state'], number> = { fine: 0, blank: 1, trouble: 2 };

/** A rehearsal without its requests and values: small enough to hand over at every keystroke. */
export interface RehearsalSummary {
  going: number;
  sendable: number;
  /** Keys of required fields that no line fills. */
  missing: string[];
  /** Kinds of trouble stand in the order of how common they are. */
  lines: (LineTotals & { troubles: TroubleGroup[] })[];
  /** Per sample, in their order: 1 when it goes; 1 when its request may be sent. */
  goes: Uint8Array;
  sends: Uint8Array;
  /** Line by line, for each sample: 0 fine, 1 blank, 2 in trouble. */
  states: Uint8Array;
}

/** How a line fares on a sample; both by their places, from 0. */
export const stateOf = (summary: RehearsalSummary, line: number, sample: number): Outcome['state'] =>
  states[summary.states[line * summary.goes.length + sample] ?? 0]!;

/** True for a sample that goes and has a line in trouble, or can't be sent. */
export function isTroubled(summary: RehearsalSummary, sample: number): boolean {
  if (summary.goes[sample] !== 1) return false;
  return summary.sends[sample] !== 1 || summary.lines.some((_, line) => stateOf(summary, line, sample) === 'trouble');
}

/** What one line made of all samples. */
interface LineResult {
  /** What it was made from: the same again gives the same. */
  madeFrom: string;
  states: Uint8Array;
  /** 1 where the request may not go because of this line. */
  stops: Uint8Array;
  /** What is said where it is in trouble, by the sample's place. */
  problems: Map<number, { code: string; message: string }>;
}

/**
 * Rehearses a route again and again over the same samples, as it is edited: only the lines that changed are evaluated
 * anew, and a condition only when it changed.
 */
export class Rehearser {
  private results: LineResult[] = [];
  private goes: { madeFrom: string; values: Uint8Array } | null = null;
  private made: { madeFrom: string; scopes: Scope[][] } | null = null;

  private readonly plain: Scope[];

  constructor(private readonly samples: readonly Sample[]) {
    this.plain = samples.map(each => scopeOf(each.submission));
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
      const compile = () => compileLine(line, field, usedBy(call));
      return before.get(madeFrom) ?? this.evaluate(compile(), context, madeFrom, scopes);
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
    if (this.made?.madeFrom !== madeFrom) {
      const madeOf = scopesFor({ call, answers });
      this.made = { madeFrom, scopes: this.samples.map(sample => madeOf(sample.submission)) };
    }
    return this.made;
  }

  private whoGoes(condition: CallParts['condition'], scopes: Scope[][] | null, around: string): Uint8Array {
    const madeFrom = JSON.stringify([condition, around]);
    if (this.goes?.madeFrom !== madeFrom) {
      const passes = compileCondition(condition);
      const isMade = (at: number) => scopes === null || scopes[at]!.length > 0;
      const values = Uint8Array.from(this.plain, (scope, at) => (isMade(at) && passes(scope) ? 1 : 0));
      this.goes = { madeFrom, values };
    }
    return this.goes.values;
  }

  private evaluate(
    line: CompiledLine,
    context: CallParts['context'],
    madeFrom: string,
    scopes: Scope[][] | null,
  ): LineResult {
    const count = this.samples.length;
    const result: LineResult = {
      madeFrom,
      states: new Uint8Array(count),
      stops: new Uint8Array(count),
      problems: new Map(),
    };
    if (line.line.source === null) {
      result.states.fill(codes.blank);
      return result;
    }
    for (let at = 0; at < count; at++) {
      const { state, stops, problem } = scopes
        ? worstOf(scopes[at]!.map(scope => line.outcome(scope, context)))
        : line.outcome(this.plain[at]!, context);
      result.states[at] = codes[state];
      if (stops && !line.waits) result.stops[at] = 1;
      if (problem) result.problems.set(at, { code: problem.code, message: problem.message });
    }
    return result;
  }

  private summary(goes: Uint8Array, mayStop: boolean, ids: string[], missing: string[]): RehearsalSummary {
    const count = this.samples.length;
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
    .map(([code, { samples, message, said }]) => ({ code, message, ways: said.size, samples }))
    .sort((a, b) => b.samples.length - a.samples.length);
}
