import { isJsonObject, type Json } from './json';
import type { FieldKind, Submission } from './submission';

/** Answers that tell one submission from another: what is counted, measured or agreed to says little. */
const telling = new Set<FieldKind>(['text', 'name', 'email', 'choice', 'phone', 'choices', 'address']);
const MOST_TOLD = 3;

/** A value as a person would say it: of an object what its members say, never its JSON. */
function spoken(value: Json, between: string): string {
  if (value === null) return '';
  if (typeof value !== 'object') return String(value).trim();
  const parts = isJsonObject(value) ? Object.values(value).filter(each => typeof each !== 'boolean') : value;
  const joins = isJsonObject(value) ? between : ', ';
  return parts
    .map(each => spoken(each, between))
    .filter(Boolean)
    .join(joins);
}

/** A few answers in a line, to tell submissions apart in lists; those that tell most, in their order. */
export function aboutSubmission({ id, fields }: Submission): string {
  const short = fields
    .map(({ kind, value }, at) => ({ at, kind, text: spoken(value, kind === 'name' ? ' ' : ', ') }))
    .filter(({ text }) => text.length > 0 && text.length <= 40);
  const ranked = [...short.filter(each => telling.has(each.kind)), ...short.filter(each => !telling.has(each.kind))];
  return (
    ranked
      .slice(0, MOST_TOLD)
      .sort((a, b) => a.at - b.at)
      .map(each => each.text)
      .join(' · ') ||
    // A notice has nothing but its identifier.
    (id ?? 'no answers')
  );
}
