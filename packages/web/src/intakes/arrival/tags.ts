import type { ArrivalView } from '@grammata/contract';
import type { FoundEnvelope } from '@grammata/core/decode';
import { escapeToken, isJsonObject, valueAt, type Json } from '@grammata/core/submission';

/** What a place was read as. */
export interface Tag {
  /** Empty where it only goes with an answer. */
  says: string;
  /** found: an answer or what is told of the submission. part: what goes with one. blank: nobody answered. */
  is: 'found' | 'part' | 'blank';
  /** The place of the answer that it goes with. */
  with?: string;
}

export type Tags = Map<string, Tag>;

/** What the places of a document were read as, by pointer. */
export function tagsOf({ envelope, decoded, document }: ArrivalView): { tags: Tags; asides: Set<string> } {
  const tags: Tags = new Map();
  const asides = new Set<string>();
  const tell = (at: string, says: string, is: Tag['is'] = 'found') => tags.set(at, { says, is });
  if (envelope) {
    for (const [at, tag] of partsOf(envelope, decoded, document)) tags.set(at, tag);
    const isRecords = envelope.columns !== null;
    tell(
      envelope.answersAt,
      envelope.splitAt !== null ? 'one submission each' : isRecords ? 'one answer each' : 'the answers',
    );
  }
  // In a list of submissions each item tells its own identifier and time.
  const items = envelope && envelope.splitAt !== null ? valueAt(document, envelope.splitAt) : undefined;
  const own = Array.isArray(items)
    ? items.slice(0, MOST_ITEMS).map((item, index) => [item, `${envelope!.splitAt}/${index}`] as const)
    : [[document, ''] as const];
  own.forEach(([item, at], index) => {
    const { id = null, submittedAt = null } = decoded[index] ?? {};
    const idAt = id === null ? null : placeOf(item, id, at);
    const timeAt = submittedAt === null ? null : placeOf(item, submittedAt, at);
    if (idAt !== null) tell(idAt, 'submission ID');
    if (timeAt !== null) tell(timeAt, 'time');
  });
  for (const submission of decoded) {
    for (const field of submission.fields) tell(field.pointer, field.label);
    for (const { key, label, pointer } of submission.questions) {
      if (tags.get(pointer)?.is === 'found') continue;
      if (submission.files.some(file => file.field === key)) tell(pointer, `${label}, files`);
      else tell(pointer, 'not answered', 'blank');
    }
  }
  if (isJsonObject(document)) {
    for (const [name, value] of Object.entries(document)) {
      const at = `/${escapeToken(name)}`;
      if (decoded.some(({ meta }) => Object.hasOwn(meta, name))) asides.add(at);
      else if (!tags.has(at) && decoded.some(({ form }) => form && says(value, form.key))) tell(at, 'form ID');
    }
  }
  return { tags, asides };
}

/** Items of a list of submissions that are looked into. */
const MOST_ITEMS = 400;

/** Levels, and places, that are looked through for what is told of a submission. */
const [DEEPEST, MOST_PLACES] = [5, 500];

const says = (value: Json, text: string): boolean => JSON.stringify(value).includes(JSON.stringify(text));

/** The place of a text or number, the one that stands least deep; null where there is none. */
function placeOf(document: Json, text: string, at: string): string | null {
  let level: [value: Json, pointer: string][] = [[document, at]];
  for (let depth = 0, looked = 0; depth <= DEEPEST && looked < MOST_PLACES; depth++) {
    looked += level.length;
    const found = level.find(([value]) => typeof value !== 'object' && String(value).trim() === text);
    if (found) return found[1];
    level = level.flatMap(([value, pointer]) =>
      typeof value === 'object' && value !== null
        ? Object.entries(value).map(([name, each]): [Json, string] => [each, `${pointer}/${escapeToken(name)}`])
        : [],
    );
  }
  return null;
}

/** Records whose columns are known; those of the first are named, the others are built alike. */
const MOST_NAMED = 40;

/** What goes with answers: the columns of their records, and what elsewhere says what they were asked. */
function partsOf(envelope: FoundEnvelope, decoded: ArrivalView['decoded'], document: Json): [string, Tag][] {
  const questions = decoded.slice(0, MOST_NAMED).flatMap(each => each.questions);
  const parts: [string, Tag][] = [];
  const { wording, key, kind } = envelope.columns ?? { wording: null, key: null, kind: null };
  for (const [index, { pointer }] of questions.slice(0, MOST_NAMED).entries()) {
    const record = recordAround(document, pointer, [wording, key, kind]);
    if (record === null) continue;
    const part = (name: string | null, says: string) =>
      name !== null &&
      parts.push([`${record}/${escapeToken(name)}`, { says: index === 0 ? says : '', is: 'part', with: pointer }]);
    part(wording, 'question text');
    part(key, 'question key');
    part(kind, 'question type');
  }
  for (const at of envelope.definedAt) {
    const place = valueAt(document, at);
    if (typeof place !== 'object' || place === null) continue;
    parts.push([at, { says: 'questions', is: 'part' }]);
    for (const [name, definition] of Object.entries(place)) {
      const asked = questions.find(
        each => each.key === name || (isJsonObject(definition) && Object.values(definition).includes(each.key)),
      );
      if (asked)
        parts.push([
          `${at}/${escapeToken(name)}`,
          { says: `question: ${asked.label}`, is: 'part', with: asked.pointer },
        ]);
    }
  }
  return parts;
}

/** The record that an answer stands in: the innermost place that has one of its columns. */
function recordAround(document: Json, pointer: string, columns: (string | null)[]): string | null {
  const names = columns.filter(name => name !== null);
  for (let at = pointer; at !== ''; at = at.slice(0, at.lastIndexOf('/'))) {
    const place = valueAt(document, at);
    if (isJsonObject(place) && names.some(name => Object.hasOwn(place, name))) return at;
  }
  return null;
}
