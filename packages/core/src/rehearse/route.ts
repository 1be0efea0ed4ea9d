import { compileCondition, compilePart, partsOf, type Condition } from '../condition';
import { findCall, likelyAnswers, waitsForAnswers } from '../perform';
import type { Call } from '../route';
import { scopeOf, type Scope } from '../scope';
import type { Json } from '../submission';
import type { Operation } from '../target';
import type { TransformContext } from '../transform';
import { Rehearser, type RehearsalSummary } from './rehearser';
import type { Sample } from './rehearse';

/** A route with all its calls. */
export interface RouteParts {
  condition: Condition;
  calls: RouteCall[];
  context: TransformContext;
}

export interface RouteCall {
  call: Call;
  /** Null for one that the target does not offer any more. */
  operation: Operation | null;
  /** What that really answered, where it is known. */
  answered?: Json;
  /** The operation that looks a record up first; undefined where none does, null where it is not offered any more. */
  finder?: Operation | null;
  baseUrl: string;
}

/** How a route fares over all samples; small enough to hand over at every keystroke. */
export interface RouteRehearsal {
  going: number;
  /** Those for which every call can be made. */
  sendable: number;
  /** Per sample, in their order: 1 when it goes; 1 when every call can be made. */
  goes: Uint8Array;
  sends: Uint8Array;
  /** One a part of the route's condition, in their order: per sample 1 when it passes that part. */
  parts: Uint8Array[];
  /** One a call, in their order; null for one that is not offered any more. */
  calls: (RehearsalSummary | null)[];
  /** The identifiers of these calls: what is shown may have others by the time it is told. */
  callIds: string[];
}

/** Rehearses all calls of a route again and again over the same samples, as it is edited. */
export class RouteRehearser {
  private readonly byCall = new Map<string, Rehearser>();
  private readonly byFind = new Map<string, Rehearser>();
  private readonly scopes: Scope[] = [];
  /** Who passes the condition and each part of it, by how that is written; of the last condition. */
  private passed = new Map<string, Uint8Array<ArrayBuffer>>();

  constructor(samples: readonly Sample[] = []) {
    this.add(samples);
  }

  /** Takes more samples, behind those that are there. */
  add(samples: readonly Sample[]): void {
    for (const each of samples) this.scopes.push(scopeOf(each.submission));
  }

  rehearse({ condition, calls, context }: RouteParts): RouteRehearsal {
    const { goes, parts: passing } = this.whoPasses(condition);
    const sends = goes.slice();
    const offered = calls.flatMap(({ call, operation, answered }) =>
      operation ? [{ call, operation, ...(answered !== undefined && { answered }) }] : [],
    );
    const answers = calls.length > 1 ? likelyAnswers(offered) : undefined;
    const summaries = calls.map(({ call, operation, finder, baseUrl }) => {
      if (!operation || (call.find && !finder)) {
        sends.fill(0);
        return null;
      }
      const parts = { condition, call, operation, baseUrl, context, ...(answers && { answers }) };
      const summary = this.of(this.byCall, call.id).rehearse({ ...parts, stops: !call.find });
      const found =
        call.find && finder
          ? this.of(this.byFind, call.id).rehearse({ ...parts, call: findCall(call, call.find), operation: finder })
          : null;
      if (call.whenFailed === 'passOver' || waitsForAnswers(call)) return summary;
      for (let at = 0; at < sends.length; at++)
        if (summary.goes[at] === 1 && (summary.sends[at] !== 1 || (found && found.sends[at] !== 1))) sends[at] = 0;
      return summary;
    });
    const count = (flags: Uint8Array) => flags.reduce((sum, each) => sum + each, 0);
    return {
      going: count(goes),
      sendable: count(sends),
      goes,
      sends,
      parts: passing,
      calls: summaries,
      callIds: calls.map(({ call }) => call.id),
    };
  }

  private whoPasses(condition: Condition): { goes: Uint8Array<ArrayBuffer>; parts: Uint8Array<ArrayBuffer>[] } {
    const before = this.passed;
    this.passed = new Map();
    const over = (written: unknown, compile: () => (scope: Scope) => boolean) => {
      const name = JSON.stringify(written);
      const known = before.get(name) ?? this.passed.get(name) ?? new Uint8Array();
      let values = known;
      if (known.length < this.scopes.length) {
        values = new Uint8Array(this.scopes.length);
        values.set(known);
        const passes = compile();
        for (let at = known.length; at < values.length; at++) values[at] = passes(this.scopes[at]!) ? 1 : 0;
      }
      this.passed.set(name, values);
      // What is handed over is gone from here.
      return values.slice();
    };
    return {
      goes: over(condition, () => compileCondition(condition)),
      parts: partsOf(condition).map(part => over(part, () => compilePart(part))),
    };
  }

  private of(rehearsers: Map<string, Rehearser>, callId: string): Rehearser {
    const known = rehearsers.get(callId) ?? new Rehearser([], this.scopes);
    rehearsers.set(callId, known);
    return known;
  }
}
