import type { ArrivalView } from '@grammata/contract';
import type { FoundEnvelope } from '@grammata/core/decode';
import { escapeToken, isJsonObject, valueAt, type Json } from '@grammata/core/submission';

/** What a place was read as. */
export interface Tag {
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
      envelope.splitAt !== null ? 'a submission each' : isRecords ? 'an answer each' : 'the answers',
    );
  }
  // In a list of submissions each item tells its own identifier and time.
  const items = envelope && envelope.splitAt !== null ? valueAt(document, envelope.splitAt) : undefined;
  (Array.isArray(items) ? items.slice(0, MOST_ITEMS) : []).forEach((item, index) => {
    if (!isJsonObject(item)) return;
    for (const [name, value] of Object.entries(item)) {
      const at = `${envelope!.splitAt}/${index}/${escapeToken(name)}`;
      const { id, submittedAt } = decoded[index] ?? { id: null, submittedAt: null };
      if (id !== null && id === String(value)) tell(at, 'identifies it');
      else if (submittedAt !== null && submittedAt === String(value)) tell(at, 'time');
    }
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
      else if (decoded.some(({ id }) => id !== null && id === String(value))) tell(at, 'identifies it');
      else if (decoded.some(({ submittedAt }) => submittedAt !== null && submittedAt === String(value)))
        tell(at, 'time');
      else if (decoded.some(({ form }) => form && JSON.stringify(value).includes(JSON.stringify(form.key)))) {
        if (!tags.has(at)) tell(at, 'tells the form');
      }
    }
  }
  return { tags, asides };
}

/** Items of a list of submissions that are looked into. */
const MOST_ITEMS = 400;

/** Records whose columns are named, the first: the others are built alike. */
const MOST_NAMED = 40;

/** What goes with answers: the columns of their records, and what elsewhere says what they were asked. */
function partsOf(envelope: FoundEnvelope, decoded: ArrivalView['decoded'], document: Json): [string, Tag][] {
  const questions = decoded.slice(0, MOST_NAMED).flatMap(each => each.questions);
  const parts: [string, Tag][] = [];
  const { wording, key, kind } = envelope.columns ?? { wording: null, key: null, kind: null };
  for (const { pointer } of questions.slice(0, MOST_NAMED)) {
    const record = recordAround(document, pointer, [wording, key, kind]);
    if (record === null) continue;
    const part = (name: string | null, says: string) =>
      name !== null && parts.push([`${record}/${escapeToken(name)}`, { says, is: 'part', with: pointer }]);
    part(wording, 'words the question');
    part(key, 'identifies it');
    part(kind, 'its kind');
  }
  for (const at of envelope.definedAt) {
    const place = valueAt(document, at);
    if (typeof place !== 'object' || place === null) continue;
    parts.push([at, { says: 'what they ask', is: 'part' }]);
    for (const [name, definition] of Object.entries(place)) {
      const asked = questions.find(
        each => each.key === name || (isJsonObject(definition) && Object.values(definition).includes(each.key)),
      );
      if (asked)
        parts.push([`${at}/${escapeToken(name)}`, { says: `asks ${asked.label}`, is: 'part', with: asked.pointer }]);
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
