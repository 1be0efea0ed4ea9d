import { readFileSync } from 'node:fs';
import { once } from 'node:events';
import { LRUCache } from 'lru-cache';
import {
  contentFor,
  contentsIn,
  contentsInDocument,
  decode,
  isHarmless,
  isUnpinned,
  KnownShapes,
  withArrival,
  withHeaders,
  type Decoded,
  type FileContent,
  type FilesAsked,
  type Pins,
} from '@grammata/core/decode';
import { answerChanges } from '@grammata/core/drift';
import { asText, isBlank, parseJson, valueAt, type Json, type Submission } from '@grammata/core/submission';
import { checkProofs } from '@grammata/core/workspace';
import type { ReadingSummary } from '@grammata/contract';
import { lookAtForm } from '../drift/formChanges';
import { offerIn } from '../targets/offer';
import { readSubmission } from './content';
import { Meter } from './meter';
import { decodeMultipartFile } from './multipartFile';
import type {
  Compared,
  DecodeResult,
  DecodeTask,
  LookedAt,
  PortionMessage,
  ReadMessage,
  ReadSubmission,
  StoredMessage,
} from './tasks';

/** Submissions handed over at once, and answers in them: wide ones go in smaller portions. */
const PORTION = 200;
const ANSWERS = 2000;
/** Submissions of one message that people are shown at once, and answers of one in a summary. */
const MOST_SHOWN = 50;
const ANSWERS_SHOWN = 6;

/** How many of a message's submissions are handed over at once. */
const portionIn = ({ submissions }: Pick<Answered, 'submissions'>): number =>
  Math.max(1, Math.min(PORTION, Math.floor(ANSWERS / Math.max(1, submissions[0]?.fields.length ?? 1))));

/** What followed `?` in an address. */
const queryOf = (url: string): string => (url.includes('?') ? url.slice(url.indexOf('?') + 1) : '');

/** Intakes whose shapes a thread keeps in mind, those read last. */
const shapesByName = new LRUCache<string, KnownShapes>({ max: 60 });

/** Other pins, and other questions for files, read otherwise: they have shapes of their own. */
function shapesWith(intakeId: string, pins: Pins, files: FilesAsked = {}): KnownShapes {
  const name = JSON.stringify([intakeId, pins, files]);
  const found = shapesByName.get(name) ?? new KnownShapes();
  shapesByName.set(name, found);
  return found;
}

/** A message decoded afresh from the bytes that came, wherever they lie. */
async function decoded({ headers = [], arrivedAt, ...message }: StoredMessage, pins: Pins): Promise<Decoded> {
  const read = withHeaders(await decodedBody(message, pins), headers);
  return arrivedAt === undefined ? read : withArrival(read, arrivedAt);
}

async function decodedBody({ body, file, contentType, url, known, shapesOf }: StoredMessage, pins: Pins) {
  if (file !== null && /^multipart\/form-data\s*;/i.test(contentType ?? ''))
    return decodeMultipartFile(file, contentType!, pins);
  const bytes = file === null ? body : readFileSync(file);
  const shapes = shapesOf === undefined ? undefined : shapesWith(shapesOf, pins, known?.files);
  return decode(bytes, contentType, queryOf(url), pins, known, shapes);
}

type Answered = Omit<ReadMessage, 'submissions'> & { submissions: Submission[]; items: (Json | undefined)[] };

/** What is stored of a decoding. A document without a single answer counts as unread. */
function readingOf({ document, envelope, submissions, notes }: Decoded, pins: Pins): Answered {
  const isAnswered = (each: Submission) => each.fields.length + each.files.length > 0 || each.id !== null;
  const answered = submissions.filter(isAnswered);
  const list = envelope?.splitAt == null ? undefined : valueAt(document, envelope.splitAt);
  const items = Array.isArray(list) && list.length === submissions.length ? list : undefined;
  const trouble =
    notes.find(each => !isHarmless(each))?.message ?? (answered.length === 0 ? 'It contains no answers.' : null);
  const hasAnswers = answered.some(each => !isBlank(each.fields.map(field => field.value)) || each.files.length > 0);
  // A notice names a submission that is had elsewhere: somebody who pointed at its places means it so.
  const isNotice = !isUnpinned(pins) && answered.some(each => each.id !== null);
  const isRead = hasAnswers || isNotice;
  return {
    state: isRead ? 'read' : 'unread',
    trouble: isRead ? trouble : (trouble ?? 'It contains no answers.'),
    isSure: !isRead || (envelope?.isSure ?? true),
    way:
      isRead && envelope?.isSure && isUnpinned(pins)
        ? { reader: envelope.reader, answersAt: envelope.answersAt, splitAt: envelope.splitAt }
        : null,
    submissions: isRead ? answered : [],
    items: items?.filter((_, at) => isAnswered(submissions[at]!)) ?? [],
    isEmpty: Array.isArray(document) && document.length === 0,
    notes: notes.map(each => each.message),
  };
}

/** A portion of a reading as it is stored. */
const portionOf = ({ submissions, items }: Answered, from: number, to: number): ReadSubmission[] =>
  submissions.slice(from, to).map((each, at) => readSubmission(each, items[from + at]));

const summaryOf = (submissions: Submission[]): ReadingSummary => ({
  submissions: submissions.length,
  form: submissions[0]?.form ? (submissions[0].form.name ?? submissions[0].form.key) : null,
  answers: (submissions[0]?.fields ?? [])
    .slice(0, ANSWERS_SHOWN)
    .map(({ label, value }) => ({ label, value: asText(value).slice(0, 120) })),
});

const tasks: {
  [Name in DecodeTask['task']]: (task: Extract<DecodeTask, { task: Name }>) => Promise<DecodeResult[Name]>;
} = {
  async read({ messages, pins }) {
    const readings: DecodeResult['read'] = [];
    for (const [at, message] of messages.entries()) {
      const reading = readingOf(await decoded(message, pins[at] ?? {}), pins[at] ?? {});
      const { items: _items, ...rest } = reading;
      const { length } = reading.submissions;
      readings.push(length > portionIn(reading) ? null : { ...rest, submissions: portionOf(reading, 0, length) });
    }
    return readings;
  },

  /** A portion waits until the one before it was taken: whoever takes them has other things to do. */
  async portions({ message, pins, port }) {
    const say = (portionMessage: PortionMessage) => port.postMessage(portionMessage);
    try {
      const reading = readingOf(await decoded(message, pins), pins);
      const { submissions, items: _items, ...rest } = reading;
      say({ type: 'found', total: submissions.length });
      const portion = portionIn(reading);
      for (let from = 0; from < submissions.length; from += portion) {
        const taken = once(port, 'message');
        say({ type: 'portion', from, submissions: portionOf(reading, from, from + portion) });
        const [answer] = (await taken) as [string];
        if (answer === 'stop') break;
      }
      return rest;
    } finally {
      port.close();
    }
  },

  async look({ message, pins, most }) {
    const { media, envelope, runnersUp, notes, document } = await decoded(message, pins);
    const isLarge = JSON.stringify(document)?.length > most;
    return { media, envelope, runnersUp, notes, document: isLarge ? null : document } satisfies LookedAt;
  },

  async compare({ messages, before: old, after: fresh }) {
    const compared: Compared[] = [];
    for (const message of messages) {
      const before = readingOf(await decoded(message, old), old).submissions;
      const read = await decoded(message, fresh);
      const after = readingOf(read, fresh).submissions;
      const missing = read.notes.find(note => note.code === 'pins.missing')?.message ?? null;
      compared.push({
        isSame: JSON.stringify(before) === JSON.stringify(after),
        missing: isUnpinned(fresh) ? null : missing,
        before: summaryOf(before),
        after: summaryOf(after),
        forms: [...new Set(after.map(({ form }) => form?.key ?? ''))],
        shown: after.slice(0, MOST_SHOWN),
      });
    }
    return compared;
  },

  async lookAtForm({ rows, looks, told }) {
    return lookAtForm(rows, looks, told);
  },

  async answerChanges({ answers, places }) {
    return answerChanges(
      answers.map(({ text, ...each }) => ({ ...each, answer: text === null ? undefined : parseJson(text) })),
      places,
    );
  },

  async checkProofs({ workspace }) {
    return checkProofs(workspace);
  },

  async offer({ kind, text, how }) {
    return offerIn(kind, text, how);
  },

  async content({ body, file, contentType, files, index }): Promise<FileContent | null> {
    const contents = contentsIn(file === null ? body : readFileSync(file), contentType);
    const described = contents.map(({ bytes, ...each }) => ({ ...each, size: bytes.length }));
    const content = contents[contentFor(files, index, described)];
    if (content) return content;
    const { document } = await decoded({ body, file, contentType, url: '' }, {});
    const held = contentsInDocument(document);
    const at = contentFor(
      files,
      index,
      held.map(each => each.file),
    );
    return held[at] ? { ...held[at].file, type: held[at].file.type ?? '', bytes: held[at].bytes } : null;
  },
};

/** One piece of decoding, in a thread that may be ended at any time. */
export default function run<Name extends DecodeTask['task']>(
  task: Extract<DecodeTask, { task: Name }> & { meter: SharedArrayBuffer },
): Promise<DecodeResult[Name]> {
  new Meter(task.meter).begin();
  return tasks[task.task](task as never) as Promise<DecodeResult[Name]>;
}
