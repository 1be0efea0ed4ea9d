import type { CallInput, RouteView } from '@grammata/contract';
import type { Sample } from '@grammata/core/rehearse';
import {
  compileReference,
  factReferences,
  referenceLabel,
  referenceText,
  referredTo,
  scopeOf,
  type Reference,
} from '@grammata/core/scope';
import { asText, escapeToken, isFile, isJsonObject, type FieldKind } from '@grammata/core/submission';
import type { Operation } from '@grammata/core/target';

/** What a line, a step or a condition can refer to, as it is offered to people. */
export interface Offered {
  /** The reference as definitions hold it. */
  key: string;
  label: string;
  kind: FieldKind;
  /** Questions; what stands beside the answers; what is known only while a call is made. */
  group: 'question' | 'about' | 'delivery';
  isQuestion: boolean;
  /** An answer, for people to recognise it by. */
  example: string | null;
}

/** How many samples are looked at for what their envelopes hold. */
const ENVELOPES = 50;

/** The questions of a form, and what stands beside the answers. */
export function referencesOf(route: RouteView, samples: Sample[]): Offered[] {
  const questions = route.form.schema.fields.map(({ key, label, kind, examples }) => ({
    key,
    label,
    kind,
    group: 'question' as const,
    isQuestion: true,
    example: examples[0] ?? null,
  }));
  const envelopes = samples.slice(0, ENVELOPES).map(({ submission }) => submission.meta);
  const names = [...new Set(envelopes.flatMap(meta => Object.keys(meta)))];
  const about = [...factReferences, ...names.map((name): Reference => ({ to: 'envelope', name }))].map(reference => ({
    key: referenceText(reference),
    label: referenceLabel(reference)!,
    kind: 'text' as const,
    group: 'about' as const,
    isQuestion: false,
    example: samples[0] ? asText(compileReference(reference)(scopeOf(samples[0].submission))) || null : null,
  }));
  return [...questions, ...about];
}

/** What a repeated call can use of its item: the whole, its parts, its number. */
export function itemReferences(repeat: string, route: RouteView, samples: Sample[]): Offered[] {
  const item = (reference: Reference, label: string, kind: FieldKind): Offered => ({
    key: referenceText(reference),
    label,
    kind,
    group: 'delivery',
    isQuestion: false,
    example: null,
  });
  const question = route.form.schema.fields.find(each => each.key === repeat);
  const found = samples.slice(0, ENVELOPES).map(each => referredTo(scopeOf(each.submission), repeat));
  const rows = found.flatMap(each => (Array.isArray(each) ? each : [])).filter(isJsonObject);
  const isFiles = rows.some(row => isFile(row));
  const parts = [...new Set(rows.flatMap(row => Object.keys(row)))];
  const whole = question ? `one of “${question.label}”` : 'the item';
  return [
    item({ to: 'item', pointer: '' }, whole, isFiles ? 'files' : rows.length > 0 ? 'json' : 'text'),
    ...parts.map(part => item({ to: 'item', pointer: `/${escapeToken(part)}` }, `${part} of ${whole}`, 'text')),
    item({ to: 'itemNumber' }, `number of ${whole}`, 'number'),
  ];
}

/** What an earlier call answers, as far as its target says. */
export const answerReferences = (call: CallInput, operation: Operation | null): Offered[] =>
  (operation?.answer ?? [])
    .filter(each => each.pointer !== '' && !each.items)
    .map(({ pointer, label, type }) => ({
      key: referenceText({ to: 'answer', callId: call.id, pointer }),
      label: `${label || pointer.slice(1)} from “${operation!.label}”`,
      kind: type === 'number' || type === 'integer' ? ('number' as const) : ('text' as const),
      group: 'delivery' as const,
      isQuestion: false,
      example: null,
    }));
