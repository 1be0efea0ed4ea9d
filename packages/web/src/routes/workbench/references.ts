import { callName } from '@grammata/core/route';
import type { CallInput } from '@grammata/contract';
import type { FormSchema } from '@grammata/core/schema';
import type { Sample } from '@grammata/core/rehearse';
import {
  compileReference,
  factReferences,
  itemToken,
  placeWords,
  referenceLabel,
  referenceText,
  referredTo,
  scopeOf,
  type Reference,
} from '@grammata/core/scope';
import {
  ARRIVED_AT,
  asText,
  escapeToken,
  isFile,
  isJsonObject,
  labelFromKey,
  tokensOf,
  type FieldKind,
} from '@grammata/core/submission';
import type { AnswerField, Operation, TargetType } from '@grammata/core/target';

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
  /** Of a list in a response: the places in one of its records (JSON Pointers), and their names where they have some. */
  items?: { pointer: string; label: string | null }[];
}

/** How many samples are looked at for what their envelopes hold. */
const ENVELOPES = 50;

/** The questions of a form, and what stands beside the answers. */
export function referencesOf(schema: FormSchema, samples: Sample[]): Offered[] {
  const questions = schema.fields.map(({ key, label, kind, examples }) => ({
    key,
    label,
    kind,
    group: 'question' as const,
    isQuestion: true,
    example: examples[0] ?? null,
  }));
  const envelopes = samples.slice(0, ENVELOPES).map(({ submission }) => submission.meta);
  const names = [...new Set(envelopes.flatMap(meta => Object.keys(meta)))].filter(name => name !== ARRIVED_AT);
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
export function itemReferences(
  repeat: string,
  schema: FormSchema,
  samples: Sample[],
  /** What earlier calls answer, as it is offered. */
  answered: Offered[] = [],
): Offered[] {
  const item = (reference: Reference, label: string, kind: FieldKind): Offered => ({
    key: referenceText(reference),
    label,
    kind,
    group: 'delivery',
    isQuestion: false,
    example: null,
  });
  const question = schema.fields.find(each => each.key === repeat);
  const found = samples.slice(0, ENVELOPES).map(each => referredTo(scopeOf(each.submission), repeat));
  const rows = found.flatMap(each => (Array.isArray(each) ? each : [])).filter(isJsonObject);
  const isFiles = rows.some(row => isFile(row));
  const list = answered.find(each => each.key === repeat);
  const parts =
    list?.items ??
    [...new Set(rows.flatMap(row => Object.keys(row)))].map(part => ({
      pointer: `/${escapeToken(part)}`,
      label: null,
    }));
  const label = question?.label ?? list?.label;
  const whole = question ? `one of “${question.label}”` : label ? `one of ${label}` : 'the item';
  return [
    item({ to: 'item', pointer: '' }, whole, isFiles ? 'files' : parts.length > 0 ? 'json' : 'text'),
    ...parts.map(({ pointer, label: name }) =>
      item({ to: 'item', pointer }, `${name ?? placeWords(pointer)} of ${whole}`, 'text'),
    ),
    item({ to: 'itemNumber' }, `number of ${whole}`, 'number'),
  ];
}

/** What an earlier call answers, as far as its target says; and its record, found or made. */
export function answerReferences(call: CallInput, operation: Operation | null): Offered[] {
  if (!operation) return [];
  const offered = (reference: Reference, label: string, type: TargetType, kind?: FieldKind): Offered => ({
    key: referenceText(reference),
    label: `${label} from “${callName(call, operation)}”`,
    kind: kind ?? (type === 'number' || type === 'integer' ? 'number' : 'text'),
    group: 'delivery',
    isQuestion: false,
    example: null,
  });
  const parts = (operation.answer ?? []).flatMap(({ pointer, label, type, items }): Offered[] => {
    const at = (place: string, says: string, kind?: FieldKind) =>
      offered({ to: 'answer', callId: call.id, pointer: place }, says, type, kind);
    if (!items) return pointer === '' ? [] : [at(pointer, label || pointer.slice(1))];
    const list = at(pointer, pointer === '' ? 'list' : `list ${placeWords(pointer)}`, 'table');
    const parts = items.flatMap(item =>
      listPicks.map(pick => {
        const place = `${pointer}/${itemToken({ pick })}${item.pointer}`;
        const name = ownName(item);
        const words = name
          ? `${name} of ${placeWords(`${pointer}/${itemToken({ pick })}`)}`
          : placeWords(place) || label;
        return at(place, words, pick === 'each' ? 'choices' : undefined);
      }),
    );
    return [
      ...parts,
      {
        ...list,
        items: items.filter(item => !item.items).map(item => ({ pointer: item.pointer, label: ownName(item) })),
      },
    ];
  });
  const record: Reference = { to: 'identity', callId: call.id };
  return call.identity ? [offered(record, 'Record, found or created,', 'text'), ...parts] : parts;
}

/** What somebody called a value, or a column: it comes before what it is called in the response. Null where nobody did. */
const ownName = ({ label, pointer }: Pick<AnswerField, 'label' | 'pointer'>): string | null =>
  label === '' || label === labelFromKey(tokensOf(pointer).at(-1) ?? '') ? null : label;

const listPicks = ['first', 'last', 'each'] as const;
