import type { CallInput, RouteView, TargetView } from '@grammata/contract';
import { isGone, propose, type LineProposal } from '@grammata/core/match';
import { likelyAnswers } from '@grammata/core/perform';
import {
  isTroubled,
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
import { asText } from '@grammata/core/submission';
import type { Operation } from '@grammata/core/target';
import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useSamples } from '../forms/queries';
import { answerReferences, itemReferences, referencesOf, type Offered } from './references';
import { useDraft, type Editing } from './draft';
import { useRehearsal } from './useRehearsal';

export type { Offered } from './references';

/** A recorded submission as a call sees it: with the item it repeats for, and answers as they may look. */
export interface Seen extends Sample {
  scope: Scope;
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
  /** All recorded ones, each as the call sees it first. */
  samples: Seen[];
  /** How the call fares, and the route with all its calls. */
  rehearsal: RehearsalSummary | null;
  run: RouteRehearsal | null;
  sample: Seen | null;
  /** Place of the sample among all, from 0. */
  at: number;
  /** For a call that repeats: which item of the sample is looked at, of how many. Zero: the call is not made for it. */
  items: { at: number; count: number; show(at: number): void };
  show(index: number): void;
  showSample(id: string): void;
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

const none: Sample[] = [];

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
  const recorded = useSamples(route.formId).data?.samples ?? none;
  const submissions = useMemo(() => recorded.map(each => each.submission), [recorded]);
  const gone = useMemo(
    () => new Set(route.form.schema.fields.map(each => each.key).filter(key => isGone(key, submissions))),
    [route.form.schema, submissions],
  );
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
  const run = useRehearsal(parts, recorded);
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
  const samples = useMemo(
    () =>
      recorded.map(each => ({
        ...each,
        scope: (isPlain ? undefined : scopesIn(each.submission)[0]) ?? scopeOf(each.submission, answers),
      })),
    [isPlain, recorded, scopesIn, answers],
  );
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
  const scopes = recorded[at] && !isPlain ? scopesIn(recorded[at].submission) : [];
  const items = {
    at: Math.min(itemAt, Math.max(0, scopes.length - 1)),
    count: isPlain ? 1 : scopes.length,
    show: setItemAt,
  };
  const shown = samples[at] ?? null;
  const sample = shown && scopes[items.at] ? { ...shown, scope: scopes[items.at]! } : shown;
  const nextOf = (wanted: (index: number) => boolean) => {
    const next = samples.map((_, index) => (at + 1 + index) % samples.length).find(wanted);
    if (next !== undefined) show(next);
  };
  const rehearsal = run?.calls[callAt] ?? null;
  const nextInTrouble = (lineIndex?: number) =>
    nextOf(index =>
      Boolean(
        rehearsal?.goes[index] &&
        (lineIndex === undefined ? isTroubled(rehearsal, index) : stateOf(rehearsal, lineIndex, index) === 'trouble'),
      ),
    );
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
      ...referencesOf(route, recorded),
      ...(repeat ? itemReferences(repeat, route, recorded) : []),
      ...earlier.flatMap(each => answerReferences(each, operationOf(each))),
    ],
    [route, recorded, repeat, earlier, operationOf],
  );
  const labels = useMemo(() => new Map(references.map(each => [each.key, each.label])), [references]);
  const proposals = useMemo(() => {
    const found = operation ? propose(route.form.schema, submissions, operation) : [];
    return new Map(found.map(each => [each.to, each]));
  }, [route.form.schema, submissions, operation]);
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
    rehearsal,
    run,
    sample,
    at,
    items,
    show,
    showSample: id => show(samples.findIndex(each => each.id === id)),
    nextInTrouble,
    nextThatDiffers,
    references,
    gone,
    proposals,
    labelOf: key => labels.get(key) ?? referenceLabel(referenceOf(key)) ?? key,
  };
}
