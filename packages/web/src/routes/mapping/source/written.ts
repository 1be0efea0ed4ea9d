import type { PlainSegment, Segment } from '@grammata/core/route';
import type { Offered } from '../../workbench';

// How a text template stands in the editor: an answer is its key between two marks that nobody types (Unicode private use), so
// that no wording can be mistaken for another, nor for a brace of the text.

const ANSWER = '\ue000';
const END = '\ue001';
const PART = '\ue002';
const PART_END = '\ue003';
const marks = /[\ue000-\ue003]/g;

/** A brace that is open, with what is typed behind it, at the end of a text. */
export const openBrace = /\{[^{}\ue000-\ue003]*$/;

/** An answer, the beginning or the end of a part, as they stand in the editor; the first group is an answer's key. */
export const marked = () => /\ue000([^\ue000-\ue003]*)\ue001|\ue002|\ue003/g;

/** An answer as it stands in the editor. */
export const answerMark = (key: string): string => `${ANSWER}${key}${END}`;

/** True for the mark that begins a part. */
export const beginsPart = (mark: string): boolean => mark === PART;

const writtenPlain = (each: PlainSegment): string =>
  'text' in each ? each.text.replace(marks, '') : answerMark(each.field);

/** A text template as it stands in the editor. */
export const writtenOf = (segments: readonly Segment[]): string =>
  segments
    .map(each => ('part' in each ? `${PART}${each.part.map(writtenPlain).join('')}${PART_END}` : writtenPlain(each)))
    .join('');

/** What stands in the editor as segments. A part that does not end, ends twice or holds no answer is text. */
export function segmentsOf(written: string): Segment[] {
  const segments: Segment[] = [];
  let part: PlainSegment[] | null = null;
  const push = (into: Segment[], plain: PlainSegment) => {
    const last = into.at(-1);
    if (!('text' in plain)) into.push(plain);
    else if (last && 'text' in last) last.text += plain.text;
    else if (plain.text !== '') into.push(plain);
  };
  const giveUp = (begun: PlainSegment[]) => [{ text: '{?' }, ...begun].forEach(each => push(segments, each));
  let from = 0;
  const text = (to: number) => push(part ?? segments, { text: written.slice(from, to).replace(marks, '') });
  for (const match of written.matchAll(marked())) {
    text(match.index);
    from = match.index + match[0].length;
    if (match[1] !== undefined) push(part ?? segments, { field: match[1] });
    else if (beginsPart(match[0])) {
      if (part) giveUp(part);
      part = [];
    } else if (part?.some(each => 'field' in each)) {
      segments.push({ part });
      part = null;
    } else {
      if (part) giveUp(part);
      part = null;
      push(segments, { text: '?}' });
    }
  }
  text(written.length);
  if (part) giveUp(part);
  return segments;
}

/** How answers are told apart in the editor: by their wording, and by their key where several are worded alike. */
export function tellingApart(references: readonly Offered[]): Map<string, string> {
  const times = new Map<string, number>();
  for (const { label } of references) times.set(label, (times.get(label) ?? 0) + 1);
  return new Map(references.map(({ key, label }) => [key, times.get(label)! > 1 ? `${label} (${key})` : label]));
}

/** The answers that a wording can mean: those that are worded or told apart so, or else have it as their key. */
export function meantBy(wording: string, references: readonly Offered[]): string[] {
  const apart = tellingApart(references);
  const worded = references.filter(each => each.label === wording || apart.get(each.key) === wording);
  return (worded.length > 0 ? worded : references.filter(each => each.key === wording)).map(each => each.key);
}

/** Text that was typed or pasted, with the answers in it: `{Which site?}` where only one is worded so, parts as `{?, of {town}?}`. */
export const withAnswers = (typed: string, references: readonly Offered[]): string =>
  typed.replace(marks, '').replace(/\{\?|\{([^{}]+)\}|\?\}/g, (piece, wording: string | undefined) => {
    if (wording === undefined) return piece === '{?' ? PART : PART_END;
    const [key, ...others] = meantBy(wording, references);
    return key === undefined || others.length > 0 ? piece : answerMark(key);
  });

/** What stands in the editor as it is copied: answers in braces. */
export const readable = (written: string, references: readonly Offered[]): string => {
  const apart = tellingApart(references);
  return written.replace(marked(), (mark, key: string | undefined) =>
    key !== undefined ? `{${apart.get(key) ?? key}}` : beginsPart(mark) ? '{?' : '?}',
  );
};

/** What looks like an answer and is text: nothing, or several, are called so. */
export const strangersIn = (segments: readonly PlainSegment[], references: readonly Offered[]) =>
  segments
    .flatMap(each => ('text' in each ? [...each.text.matchAll(/\{([^{}]+)\}/g)].map(([, wording]) => wording!) : []))
    .map(wording => ({ wording, isSeveral: meantBy(wording, references).length > 1 }));
