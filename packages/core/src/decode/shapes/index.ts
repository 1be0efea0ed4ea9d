import { setOwn, type Json, type Submission } from '../../submission';
import type { EnvelopeReading } from '../envelope';
import type { FilesAsked } from '../value';
import { compile, takeUp, type Compiled } from './compile';
import { Fit, fits } from './template';

/** How a shape is read, as people are told. */
export type ShapeReading = Omit<EnvelopeReading, 'submissions'>;

interface Shape {
  compiled: Compiled;
  media: string;
  told: ShapeReading;
  /** True once the whole search read a second message just as this reader does. */
  isProven: boolean;
}

/** Shapes that are kept for one intake, those used last. */
const MOST_SHAPES = 8;

/**
 * The shapes that messages of an intake had so far, each with a reader made for just that shape. A message is checked against
 * them place by place: one of a known shape needs no search. What such a reader may take is only what the whole search was seen
 * to read in the same way; anything else is searched, and learned from.
 */
export class KnownShapes {
  #shapes: Shape[] = [];

  /** The submission in a document of a known shape, and how it was read; null for any other. */
  read(media: string, document: Json): { submission: Submission; told: ShapeReading } | null {
    for (const shape of this.#shapes) {
      if (!shape.isProven || shape.media !== media) continue;
      const fit = new Fit(false);
      if (!fits(shape.compiled.template, document, fit)) continue;
      this.#use(shape);
      return { submission: submissionOf(shape.compiled, fit), told: shape.told };
    }
    return null;
  }

  /**
   * Learns how a document is read that the whole search read for sure.
   * @param read the one submission that was read
   * @param files which questions were known to ask for files: the shapes of other knowledge are others
   */
  learn(media: string, document: Json, reading: EnvelopeReading, read: Submission, files: FilesAsked = {}): void {
    const wanted = JSON.stringify(ordered(read));
    const isRight = (shape: Shape, fit: Fit) => JSON.stringify(ordered(submissionOf(shape.compiled, fit))) === wanted;
    let fresh: Compiled | null | undefined;
    for (const shape of [...this.#shapes]) {
      const { reader, answersAt } = shape.told;
      if (shape.media !== media || reader !== reading.reader || answersAt !== reading.answersAt) continue;
      const fit = new Fit(true);
      if (!fits(shape.compiled.template, document, fit)) continue;
      if (fit.unknown.length > 0) {
        fresh ??= compile(document, reading, files);
        if (!fresh || !this.#widened(shape, fresh, fit, document, isRight)) continue;
      } else if (isRight(shape, fit)) fit.lessons.forEach(learn => learn());
      else {
        // Read otherwise, though nothing about it is new: this reader is not to be trusted.
        if (fit.lessons.length === 0) this.#shapes = this.#shapes.filter(each => each !== shape);
        continue;
      }
      shape.isProven = true;
      this.#use(shape);
      return;
    }
    fresh ??= compile(document, reading, files);
    if (!fresh) return;
    const { submissions: _, ...told } = reading;
    const shape = {
      compiled: fresh,
      media,
      told,
      isProven: false,
    };
    const fit = new Fit(false);
    if (!fits(fresh.template, document, fit) || !isRight(shape, fit)) return;
    this.#shapes = [shape, ...this.#shapes].slice(0, MOST_SHAPES);
  }

  /** Takes up questions that a shape did not have so far; gives up what it took where it then reads otherwise. */
  #widened(
    shape: Shape,
    fresh: Compiled,
    first: Fit,
    document: Json,
    isRight: (shape: Shape, fit: Fit) => boolean,
  ): boolean {
    if (!takeUp(shape.compiled, fresh, first.unknown)) return false;
    const fit = new Fit(true);
    const isFit = fits(shape.compiled.template, document, fit) && fit.unknown.length === 0 && isRight(shape, fit);
    if (isFit) fit.lessons.forEach(learn => learn());
    else this.#shapes = this.#shapes.filter(each => each !== shape);
    return isFit;
  }

  #use(shape: Shape): void {
    if (this.#shapes[0] !== shape) this.#shapes = [shape, ...this.#shapes.filter(each => each !== shape)];
  }
}

function submissionOf({ form, id, submittedAt, meta }: Compiled, { found, said }: Fit): Submission {
  const told: Submission['meta'] = {};
  for (const [name, made] of meta) setOwn(told, name, made(said));
  const submission: Submission = {
    form: form && { ...form },
    id: textIn(said, id),
    submittedAt: textIn(said, submittedAt),
    fields: [],
    files: [],
    questions: [],
    meta: told,
  };
  for (const { asked, value, pointer } of found) {
    const { key, label, options } = asked;
    submission.questions.push({ key, label, pointer, ...(options && { options }) });
    const read = asked.read(value, null, pointer);
    if (read === null) continue;
    if ('files' in read) for (const file of read.files) submission.files.push(file);
    else submission.fields.push(read.field);
  }
  return submission;
}

const textIn = (said: Fit['said'], slot: number | null): string | null =>
  slot === null ? null : String(said[slot]).trim();

/** One order for what readings are compared by. */
const ordered = ({ form, id, submittedAt, fields, files, questions, meta }: Submission): Json[] =>
  [form, id, submittedAt, fields, files, questions, meta] as unknown as Json[];
