import type { RouteView } from '@grammata/contract';
import { isGone, propose, type LineProposal } from '@grammata/core/match';
import { isTroubled, stateOf, type RehearsalSummary, type RouteParts, type Sample } from '@grammata/core/rehearse';
import { compileCall, fieldsOf, type CompiledCall } from '@grammata/core/request';
import { aboutLabel, aboutSubmission, asText, metaKey, referredTo, type FieldKind } from '@grammata/core/submission';
import type { Operation } from '@grammata/core/target';
import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useSamples } from '../forms/queries';
import { useDraft, type Editing } from './useDraft';
import { useRehearsal } from './useRehearsal';

/** What a line, a step or a condition can refer to: a question, or what is said about the submission. */
export interface Reference {
  key: string;
  label: string;
  kind: FieldKind;
  /** False for what stands beside the answers. */
  isQuestion: boolean;
  /** An answer, for people to recognise it by. */
  example: string | null;
}

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
  /** The next sample that answers otherwise: for one line, or in any question that a line draws on. */
  nextThatDiffers(lineIndex?: number): void;
  references: Reference[];
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
  const operation = useMemo(
    () => route.target.operations.find(each => each.id === draft.call.operationId) ?? null,
    [route.target.operations, draft.call.operationId],
  );
  const { baseUrl } = route.target;
  const [compiled, setCompiled] = useState<CompiledCall | null>(null);
  const [compiledFrom, setCompiledFrom] = useState<unknown[]>([]);
  // Lines that did not change are not compiled anew.
  const from = [draft.call, operation, baseUrl];
  let current = compiled;
  if (from.some((each, index) => each !== compiledFrom[index])) {
    current = operation && compileCall(draft.call, operation, baseUrl, compiled ?? undefined);
    setCompiled(current);
    setCompiledFrom(from);
  }
  const samples = useSamples(route.formId).data?.samples ?? none;
  const submissions = useMemo(() => samples.map(each => each.submission), [samples]);
  const gone = useMemo(
    () => new Set(route.form.schema.fields.map(each => each.key).filter(key => isGone(key, submissions))),
    [route.form.schema, submissions],
  );
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
  const nextOf = (wanted: (index: number) => boolean) => {
    const next = samples.map((_, index) => (at + 1 + index) % samples.length).find(wanted);
    if (next !== undefined) show(next);
  };
  const nextInTrouble = (lineIndex?: number) =>
    nextOf(index =>
      Boolean(
        rehearsal?.goes[index] &&
        (lineIndex === undefined ? isTroubled(rehearsal, index) : stateOf(rehearsal, lineIndex, index) === 'trouble'),
      ),
    );
  const nextThatDiffers = (lineIndex?: number) => {
    const lines = draft.call.lines.filter((_, index) => lineIndex === undefined || index === lineIndex);
    const keys = lines.flatMap(line => fieldsOf(line.source));
    const answers = (index: number) => keys.map(key => asText(referredTo(samples[index]!.submission, key))).join('\n');
    const here = samples.length > 0 ? answers(at) : '';
    nextOf(index => answers(index) !== here);
  };
  const references = useMemo(() => referencesOf(route, samples), [route, samples]);
  const labels = useMemo(() => new Map(references.map(each => [each.key, each.label])), [references]);
  const proposals = useMemo(() => {
    const found = operation ? propose(route.form.schema, submissions, operation) : [];
    return new Map(found.map(each => [each.to, each]));
  }, [route.form.schema, submissions, operation]);
  return {
    route,
    editing,
    operation,
    compiled: current,
    samples,
    rehearsal,
    sample: samples[at] ?? null,
    at,
    show,
    showSample: id => show(samples.findIndex(each => each.id === id)),
    nextInTrouble,
    nextThatDiffers,
    references,
    gone,
    proposals,
    labelOf: key => labels.get(key) ?? aboutLabel(key) ?? key,
  };
}

/** How many samples are looked at for what their envelopes hold. */
const ENVELOPES = 50;

function referencesOf(route: RouteView, samples: Sample[]): Reference[] {
  const questions = route.form.schema.fields.map(({ key, label, kind, examples }) => ({
    key,
    label,
    kind,
    isQuestion: true,
    example: examples[0] ?? null,
  }));
  const envelopes = samples.slice(0, ENVELOPES).map(({ submission }) => submission.meta);
  const metaKeys = [...new Set(envelopes.flatMap(meta => Object.keys(meta)))].map(metaKey);
  const about = [...aboutSubmission.map(each => each.key), ...metaKeys].map(key => ({
    key,
    label: aboutLabel(key)!,
    kind: 'text' as const,
    isQuestion: false,
    example: samples[0] ? asText(referredTo(samples[0].submission, key)) || null : null,
  }));
  return [...questions, ...about];
}
