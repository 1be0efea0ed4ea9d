import type { RouteView } from '@grammata/contract';
import type { RehearsalSummary, RouteParts, Sample } from '@grammata/core/rehearse';
import { compileCall, type CompiledCall } from '@grammata/core/request';
import type { Operation } from '@grammata/core/target';
import { useCallback, useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { useSamples } from '../forms/queries';
import { useDraft, type Editing } from './useDraft';
import { useRehearsal } from './useRehearsal';

/** Everything the parts of a route work on. */
export interface Workbench {
  route: RouteView;
  editing: Editing;
  operation: Operation | null;
  compiled: CompiledCall | null;
  samples: Sample[];
  rehearsal: RehearsalSummary | null;
  sample: Sample | null;
  /** Place of the sample among all, from 0. */
  at: number;
  show(index: number): void;
  showSample(id: string): void;
  /** The next sample in trouble, on one line or any. */
  nextInTrouble(lineIndex?: number): void;
  labelOf(key: string): string;
}

const none: Sample[] = [];

export function useWorkbench(route: RouteView): Workbench {
  const editing = useDraft(route);
  const { draft } = editing;
  const operation = useMemo(
    () => route.target.operations.find(each => each.id === draft.call.operationId) ?? null,
    [route.target.operations, draft.call.operationId],
  );
  const { baseUrl } = route.target;
  const compiled = useMemo(
    () => operation && compileCall(draft.call, operation, baseUrl),
    [draft.call, operation, baseUrl],
  );
  const samples = useSamples(route.formId).data?.samples ?? none;
  const parts = useMemo<RouteParts | null>(
    () =>
      operation && {
        condition: draft.condition,
        call: draft.call,
        operation,
        baseUrl,
        context: { timeZone: draft.terms.timeZone },
      },
    [draft.condition, draft.call, draft.terms.timeZone, operation, baseUrl],
  );
  const rehearsal = useRehearsal(parts, samples);
  const [params, setParams] = useSearchParams();
  const chosen = samples.findIndex(each => each.id === params.get('sample'));
  const at = Math.max(0, chosen);
  const show = useCallback(
    (index: number) => {
      const sample = samples[Math.min(samples.length - 1, Math.max(0, index))];
      if (sample)
        setParams(before => new URLSearchParams({ ...Object.fromEntries(before), sample: sample.id }), {
          replace: true,
        });
    },
    [samples, setParams],
  );
  const nextInTrouble = (lineIndex?: number) => {
    const isTroubled = (states: string) => (lineIndex === undefined ? states.includes('t') : states[lineIndex] === 't');
    const order = samples.map((_, index) => (at + 1 + index) % samples.length);
    const next = order.find(index => rehearsal?.samples[index]?.goes && isTroubled(rehearsal.samples[index].states));
    if (next !== undefined) show(next);
  };
  const labels = useMemo(
    () => new Map(route.form.schema.fields.map(field => [field.key, field.label])),
    [route.form.schema],
  );
  return {
    route,
    editing,
    operation,
    compiled,
    samples,
    rehearsal,
    sample: samples[at] ?? null,
    at,
    show,
    showSample: id => show(samples.findIndex(each => each.id === id)),
    nextInTrouble,
    labelOf: key => labels.get(key) ?? key,
  };
}
