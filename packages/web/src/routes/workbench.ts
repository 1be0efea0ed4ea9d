import type { CallInput, RouteView, TargetView } from '@grammata/contract';
import { wordsFor } from '../app/api';
import { isGone, propose, type LineProposal } from '@grammata/core/match';
import { likelyAnswers } from '@grammata/core/perform';
import {
  isRehearsed,
  isTroubled,
  placeOfLine,
  scopesFor,
  stateOf,
  type RehearsalSummary,
  type RouteParts,
  type RouteRehearsal,
  type Sample,
} from '@grammata/core/rehearse';
import { compileCall, type CompiledCall } from '@grammata/core/request';
import { fieldsOf } from '@grammata/core/route';
import { referenceLabel, referenceOf, referredTo, scopeOf, type Scope } from '@grammata/core/scope';
import { asText, type Submission } from '@grammata/core/submission';
import type { Operation } from '@grammata/core/target';
import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { answerReferences, itemReferences, referencesOf, type Offered } from './references';
import { useDraft, type Editing } from './draft';
import { useShelf, type Shelved } from './samples';
import { useRehearsal } from './useRehearsal';

export type { Offered } from './references';

/** A recorded submission as a call sees it: with the item it repeats for, and answers as they may look. */
export interface Seen extends Sample {
  /** By it the rehearsal is asked about this sample. */
  place: number;
  /** Of a variant, and of a sample that was named. */
  name: string | null;
  isVariant: boolean;
  scope: Scope;
}

/** Seen when it is looked at: thousands of samples are not unpacked for the few that are shown. */
class SeenLater implements Seen {
  constructor(
    private readonly shelved: Shelved,
    private readonly seenIn: (submission: Submission) => Scope,
  ) {}
  get id() {
    return this.shelved.id;
  }
  get receivedAt() {
    return this.shelved.receivedAt;
  }
  get place() {
    return this.shelved.place;
  }
  get name() {
    return this.shelved.name;
  }
  get isVariant() {
    return this.shelved.isVariant;
  }
  get submission() {
    return this.shelved.submission;
  }
  get scope() {
    return this.seenIn(this.shelved.submission);
  }
}

/** What is known of the samples as a whole. */
export interface Stock {
  /** Recorded submissions that are here, variants apart; and all that there are. */
  recorded: number;
  total: number;
  /** How the route fares over those that are here; null until they are rehearsed. */
  fares: { going: number; sendable: number } | null;
  /** loading: more are to come. failed: they could not be had; `fault` says why. */
  state: 'loading' | 'all' | 'failed';
  fault: string | null;
  again(): void;
}

/** Everything the parts of a route work on: the route as a whole, and the call that is looked at. */
export interface Workbench {
  route: RouteView;
  editing: Editing;
  /** The call that is looked at, its place among all, and where it goes. */
  call: CallInput;
  callAt: number;
  target: TargetView | null;
  operation: Operation | null;
  compiled: CompiledCall | null;
  /** Shows another call. */
  showCall(id: string): void;
  /** Changes the call that is looked at. */
  editCall(change: (call: CallInput) => CallInput): void;
  operationOf(call: CallInput): Operation | null;
  targetOf(call: CallInput): TargetView | null;
  /** All that are here, each as the call sees it first: the newest first, variants last. */
  samples: Seen[];
  stock: Stock;
  /** How the call fares, and the route with all its calls: over the samples by their `place`. */
  rehearsal: RehearsalSummary | null;
  run: RouteRehearsal | null;
  sample: Seen | null;
  /** Place of the sample among all, from 0. */
  at: number;
  /** For a call that repeats: which item of the sample is looked at, of how many. Zero: the call is not made for it. */
  items: { at: number; count: number; show(at: number): void };
  show(index: number): void;
  showSample(id: string): void;
  /** Shows the sample that the rehearsal knows by its place. */
  showPlace(place: number): void;
  /** The next sample in trouble, on one line or any. */
  nextInTrouble(lineIndex?: number): void;
  /** The next sample that answers otherwise: for one line, or in any question that a line draws on. */
  nextThatDiffers(lineIndex?: number): void;
  references: Offered[];
  /** Questions that the newest submissions do not ask any more. */
  gone: Set<string>;
  /** What could fill the target's fields, by their keys, whether anything fills them or not. */
  proposals: Map<string, LineProposal>;
  labelOf(key: string): string;
}

/** How many samples are looked at for what could fill a line. */
const MOST_LOOKED = 300;

export function useWorkbench(route: RouteView): Workbench {
  const editing = useDraft(route);
  const { draft } = editing;
  const { calls } = draft;
  const [params, setParams] = useSearchParams();
  const [itemAt, setItemAt] = useState(0);
  const setParam = useCallback(
    (name: string, value: string) =>
      setParams(before => new URLSearchParams({ ...Object.fromEntries(before), [name]: value }), { replace: true }),
    [setParams],
  );
  const callAt = Math.max(
    0,
    calls.findIndex(each => each.id === params.get('call')),
  );
  const call = calls[callAt]!;
  const targetOf = useCallback(
    (of: CallInput) => route.targets.find(each => each.id === of.targetId) ?? null,
    [route.targets],
  );
  const operationOf = useCallback(
    (of: CallInput) => targetOf(of)?.operations.find(each => each.id === of.operationId) ?? null,
    [targetOf],
  );
  const target = targetOf(call);
  const operation = operationOf(call);
  const baseUrl = target?.baseUrl ?? '';
  const [compiled, setCompiled] = useState<CompiledCall | null>(null);
  const [compiledFrom, setCompiledFrom] = useState<unknown[]>([]);
  // Lines that did not change are not compiled anew.
  const from = [call, operation, baseUrl];
  let current = compiled;
  if (from.some((each, index) => each !== compiledFrom[index])) {
    current = operation && compileCall(call, operation, baseUrl, compiled ?? undefined);
    setCompiled(current);
    setCompiledFrom(from);
  }
  const shelf = useShelf(route.formId);
  const recorded = useMemo(() => shelf.samples.filter(each => !each.isVariant), [shelf.samples]);
  const newest = useMemo(
    () =>
      recorded.slice(0, MOST_LOOKED).map(({ id, receivedAt, submission }): Sample => ({ id, receivedAt, submission })),
    [recorded],
  );
  const gone = useMemo(() => {
    const times = newest.map(each => Date.parse(each.receivedAt));
    return new Set(route.form.schema.fields.filter(each => isGone(each, times)).map(each => each.key));
  }, [route.form.schema, newest]);
  const parts = useMemo<RouteParts>(
    () => ({
      condition: draft.condition,
      calls: calls.map(each => ({
        call: each,
        operation: operationOf(each),
        ...(each.find && { finder: operationOf({ ...each, operationId: each.find.operationId }) }),
        baseUrl: targetOf(each)?.baseUrl ?? '',
      })),
      context: { timeZone: draft.terms.timeZone },
    }),
    [draft.condition, calls, draft.terms.timeZone, operationOf, targetOf],
  );
  const rehearsed = useRehearsal(parts, shelf);
  const run = rehearsed && 'summary' in rehearsed ? rehearsed.summary : null;
  const broken = rehearsed && 'fault' in rehearsed ? rehearsed.fault : null;
  const fares = useMemo(() => {
    if (!run) return null;
    const over = (flags: Uint8Array) => recorded.filter(({ place }) => flags[place] === 1).length;
    return { going: over(run.goes), sendable: over(run.sends) };
  }, [run, recorded]);
  const { repeat, condition } = call;
  const answers = useMemo(
    () =>
      likelyAnswers(
        calls.flatMap(each => {
          const offered = operationOf(each);
          return offered ? [{ call: each, operation: offered }] : [];
        }),
      ),
    [calls, operationOf],
  );
  const isPlain = calls.length === 1 && !repeat && !condition;
  const scopesIn = useMemo(
    () => scopesFor({ call: { repeat, condition } as CallInput, answers }),
    [repeat, condition, answers],
  );
  const samples = useMemo(() => {
    const seenIn = (submission: Submission) =>
      (isPlain ? undefined : scopesIn(submission)[0]) ?? scopeOf(submission, answers);
    return shelf.samples.map((each): Seen => new SeenLater(each, seenIn));
  }, [isPlain, shelf.samples, scopesIn, answers]);
  const chosen = samples.findIndex(each => each.id === params.get('sample'));
  const at = Math.max(0, chosen);
  const show = useCallback(
    (index: number) => {
      const sample = samples[Math.min(samples.length - 1, Math.max(0, index))];
      setItemAt(0);
      if (sample) setParam('sample', sample.id);
    },
    [samples, setParam],
  );
  const shown = samples[at] ?? null;
  const scopes = useMemo(() => (shown && !isPlain ? scopesIn(shown.submission) : []), [shown, isPlain, scopesIn]);
  const items = {
    at: Math.min(itemAt, Math.max(0, scopes.length - 1)),
    count: isPlain ? 1 : scopes.length,
    show: setItemAt,
  };
  const itemScope = scopes[items.at];
  const sample = useMemo((): Seen | null => {
    if (!shown) return null;
    const { id, receivedAt, place, name, isVariant, submission, scope } = shown;
    return { id, receivedAt, place, name, isVariant, submission, scope: itemScope ?? scope };
  }, [shown, itemScope]);
  const nextOf = (wanted: (index: number) => boolean) => {
    const next = samples.map((_, index) => (at + 1 + index) % samples.length).find(wanted);
    if (next !== undefined) show(next);
  };
  const rehearsal = run?.calls[run.callIds.indexOf(call.id)] ?? null;
  const nextInTrouble = (lineIndex?: number) =>
    nextOf(index => {
      const { place } = samples[index]!;
      if (!rehearsal || !isRehearsed(rehearsal, place) || rehearsal.goes[place] !== 1) return false;
      const line = lineIndex === undefined ? -1 : placeOfLine(rehearsal, call.lines[lineIndex]!.id);
      return line < 0 ? isTroubled(rehearsal, place) : stateOf(rehearsal, line, place) === 'trouble';
    });
  const nextThatDiffers = (lineIndex?: number) => {
    const lines = call.lines.filter((_, index) => lineIndex === undefined || index === lineIndex);
    const keys = lines.flatMap(line => fieldsOf(line.source));
    const answered = (index: number) => keys.map(key => asText(referredTo(samples[index]!.scope, key))).join('\n');
    const here = samples.length > 0 ? answered(at) : '';
    nextOf(index => answered(index) !== here);
  };
  const earlier = useMemo(() => calls.slice(0, callAt), [calls, callAt]);
  const references = useMemo(
    () => [
      ...referencesOf(route, newest),
      ...(repeat ? itemReferences(repeat, route, newest) : []),
      ...earlier.flatMap(each => answerReferences(each, operationOf(each))),
    ],
    [route, newest, repeat, earlier, operationOf],
  );
  const labels = useMemo(() => new Map(references.map(each => [each.key, each.label])), [references]);
  const proposals = useMemo(() => {
    const looked = newest.map(each => each.submission);
    const found = operation ? propose(route.form.schema, looked, operation) : [];
    return new Map(found.map(each => [each.to, each]));
  }, [route.form.schema, newest, operation]);
  return {
    route,
    editing,
    call,
    callAt,
    target,
    operation,
    compiled: current,
    showCall: id => setParam('call', id),
    editCall: change =>
      editing.edit(before => ({
        ...before,
        calls: before.calls.map(each => (each.id === call.id ? change(each) : each)),
      })),
    operationOf,
    targetOf,
    samples,
    stock: {
      recorded: recorded.length,
      total: shelf.total,
      fares,
      state: broken ? 'failed' : shelf.state,
      fault: broken ?? (shelf.state === 'failed' ? wordsFor(shelf.fault) : null),
      again: shelf.again,
    },
    rehearsal,
    run,
    sample,
    at,
    items,
    show,
    showPlace: place => show(samples.findIndex(each => each.place === place)),
    showSample: id => show(samples.findIndex(each => each.id === id)),
    nextInTrouble,
    nextThatDiffers,
    references,
    gone,
    proposals,
    labelOf: key => labels.get(key) ?? referenceLabel(referenceOf(key)) ?? key,
  };
}
