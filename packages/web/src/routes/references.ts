import type { CallInput, RouteView } from '@grammata/contract';
import type { Sample } from '@grammata/core/rehearse';
import {
  aboutLabel,
  aboutSubmission,
  answerKey,
  asText,
  escapeToken,
  isFile,
  isJsonObject,
  ITEM,
  ITEM_NUMBER,
  metaKey,
  referredTo,
  type FieldKind,
} from '@grammata/core/submission';
import type { Operation } from '@grammata/core/target';

/** What a line, a step or a condition can refer to: a question, or what is said about the submission. */
export interface Reference {
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
export function referencesOf(route: RouteView, samples: Sample[]): Reference[] {
  const questions = route.form.schema.fields.map(({ key, label, kind, examples }) => ({
    key,
    label,
    kind,
    group: 'question' as const,
    isQuestion: true,
    example: examples[0] ?? null,
  }));
  const envelopes = samples.slice(0, ENVELOPES).map(({ submission }) => submission.meta);
  const metaKeys = [...new Set(envelopes.flatMap(meta => Object.keys(meta)))].map(metaKey);
  const about = [...aboutSubmission.map(each => each.key), ...metaKeys].map(key => ({
    key,
    label: aboutLabel(key)!,
    kind: 'text' as const,
    group: 'about' as const,
    isQuestion: false,
    example: samples[0] ? asText(referredTo(samples[0].submission, key)) || null : null,
  }));
  return [...questions, ...about];
}

/** What a repeated call can use of its item: the whole, its parts, its number. */
export function itemReferences(repeat: string, route: RouteView, samples: Sample[]): Reference[] {
  const item = (key: string, label: string, kind: FieldKind): Reference => ({
    key,
    label,
    kind,
    group: 'delivery',
    isQuestion: false,
    example: null,
  });
  const question = route.form.schema.fields.find(each => each.key === repeat);
  const found = samples.slice(0, ENVELOPES).map(each => referredTo(each.submission, repeat));
  const rows = found.flatMap(each => (Array.isArray(each) ? each : [])).filter(isJsonObject);
  const isFiles = rows.some(row => isFile(row));
  const parts = [...new Set(rows.flatMap(row => Object.keys(row)))];
  const whole = question ? `one of “${question.label}”` : 'the item';
  return [
    item(ITEM, whole, isFiles ? 'files' : rows.length > 0 ? 'json' : 'text'),
    ...parts.map(part => item(`${ITEM}/${escapeToken(part)}`, `${part} of ${whole}`, 'text')),
    item(ITEM_NUMBER, `number of ${whole}`, 'number'),
  ];
}

/** What an earlier call answers, as far as its target says. */
export const answerReferences = (call: CallInput, operation: Operation | null): Reference[] =>
  (operation?.answer ?? [])
    .filter(each => each.pointer !== '' && !each.items)
    .map(({ pointer, label, type }) => ({
      key: answerKey(call.id, pointer),
      label: `${label || pointer.slice(1)} from “${operation!.label}”`,
      kind: type === 'number' || type === 'integer' ? ('number' as const) : ('text' as const),
      group: 'delivery' as const,
      isQuestion: false,
      example: null,
    }));
