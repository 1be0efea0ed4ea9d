import { asText } from './json';
import type { FieldKind, Submission } from './submission';

/** Answers that tell one submission from another: what is counted, measured or agreed to says little. */
const telling = new Set<FieldKind>(['text', 'name', 'email', 'choice', 'phone', 'choices', 'address']);
const MOST_TOLD = 3;

/** A few answers in a line, to tell submissions apart in lists; those that tell most, in their order. */
export function aboutSubmission({ fields }: Submission): string {
  const short = fields
    .map(({ kind, value }, at) => ({ at, kind, text: asText(value) }))
    .filter(({ text }) => text.length > 0 && text.length <= 40);
  const ranked = [...short.filter(each => telling.has(each.kind)), ...short.filter(each => !telling.has(each.kind))];
  return (
    ranked
      .slice(0, MOST_TOLD)
      .sort((a, b) => a.at - b.at)
      .map(each => each.text)
      .join(' · ') || 'no answers'
  );
}
