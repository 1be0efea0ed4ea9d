/** What a reader could not read, or read otherwise than declared. Codes are stable. */
export interface Note {
  code: string;
  message: string;
  /** Where in the document, as a JSON Pointer, when it is about one place. */
  pointer?: string;
}

/** Below this depth a document is not searched for answers. */
export const DEEPEST = 64;
/** A document nested deeper than this is not read at all: nobody's form is. */
export const TOO_DEEP = 250;

/** How much of one message is read. What is beyond is told in the notes; nobody's form is as large. */
export const most = {
  /** Submissions, rows of a table, lines of JSON. */
  submissions: 100_000,
  /** Names and values of a form that is sent as pairs. */
  pairs: 100_000,
  /** Columns of a table. */
  columns: 2_000,
  /** Parts of a multipart message. */
  parts: 5_000,
  /** Answers of one submission. */
  answers: 10_000,
  /** Names beside the answers, at each level above them. */
  around: 400,
  /** Characters of a pointer: below longer ones nothing is looked for. */
  pointer: 2_000,
  /** Attributes of one element. */
  attributes: 1_000,
  /** Bytes that the parts of an archive may have unpacked, together. */
  unpacked: 100_000_000,
};

/** Characters of the longest note: it may repeat what came. */
export const LONGEST_NOTE = 500;

/** Notes of one kind that are told. */
export const MOST_NOTES = 200;

/** The greatest of some numbers, however many: an argument each would be more than a call takes. -Infinity for none. */
export function greatest(numbers: Iterable<number>): number {
  let found = -Infinity;
  for (const each of numbers) if (each > found) found = each;
  return found;
}

export const tooMany = (code: string, what: string): Note => ({
  code,
  message: `It has ${what}; the rest was not read.`,
});

const DIGITS = 'media.digits';

/** Numbers stay what was written. */
export const digitsAsText = (count: number): Note => ({
  code: DIGITS,
  message: `${count === 1 ? 'One number has' : `${count} numbers have`} more digits than a number can hold; ${count === 1 ? 'it is' : 'they are'} kept as text.`,
});

/** True for what tells how a message was read, and not of something that was lost. */
export const isHarmless = ({ code }: Note): boolean => code === DIGITS;
