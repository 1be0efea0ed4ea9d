/** Where a value stands in a running text: between two pieces of text that stay the same from message to message. */
export interface Landmark {
  label: string;
  /** The text right before the value. */
  before: string;
  /** The text right after it; empty where it goes on to the end. */
  after: string;
}

/** One message with its values as a person put them right; a value that is not in it is an empty text. */
export interface LandmarkExample {
  text: string;
  values: { label: string; value: string }[];
}

export interface LandmarkProblem {
  label: string;
  message: string;
}

/** How much text around a value is looked at, in characters. */
const FARTHEST = 48;

/** White space of any kind and amount is one space: mails are wrapped differently each time. Line ends stay. */
const evened = (text: string): string =>
  text
    .replace(/\r\n?/g, '\n')
    .replace(/[^\S\n]+/g, ' ')
    .replace(/ ?\n ?/g, '\n');

/** Reads the values between their landmarks, in order; null for one that is not there. */
export function readByLandmarks(text: string, landmarks: Landmark[]): { label: string; value: string | null }[] {
  const even = evened(text);
  let from = 0;
  return landmarks.map(({ label, before, after }) => {
    const at = even.indexOf(before, from);
    if (at < 0) return { label, value: null };
    const start = at + before.length;
    const end = after === '' ? even.length : even.indexOf(after, start);
    if (end < 0) return { label, value: null };
    from = end;
    return { label, value: even.slice(start, end).trim() };
  });
}

interface Placed {
  label: string;
  start: number;
  end: number;
}

/**
 * Learns from messages with corrected values where each value stands: what precedes and follows it in all of them.
 * One message teaches the words next to each value, two teach which of these words stay.
 * @example learnLandmarks([{ text: 'Hello, Wen asks for May.', values: [{ label: 'Name', value: 'Wen' }] }])
 *   // landmarks: [{ label: 'Name', before: 'Hello, ', after: ' asks for' }]
 */
export function learnLandmarks(examples: LandmarkExample[]): { landmarks: Landmark[]; problems: LandmarkProblem[] } {
  const problems: LandmarkProblem[] = [];
  const messages = examples.map(({ text, values }) => {
    const even = evened(text);
    return { text: even, placed: placesOf(even, values) };
  });
  const labels = [...new Set(examples.flatMap(each => each.values.map(({ label }) => label)))];
  const found = labels.flatMap(label => {
    const around = messages.flatMap(({ text, placed }) => {
      const place = placed.find(each => each.label === label);
      if (!place) return [];
      const others = placed.filter(each => each !== place);
      let [floor, ceiling] = [Math.max(0, place.start - FARTHEST), Math.min(text.length, place.end + FARTHEST)];
      for (const { start, end } of others) {
        if (end <= place.start) floor = Math.max(floor, end);
        if (start >= place.end) ceiling = Math.min(ceiling, start);
      }
      const isLast = ceiling === text.length;
      return [
        { order: place.start, before: text.slice(floor, place.start), after: text.slice(place.end, ceiling), isLast },
      ];
    });
    if (around.length === 0) {
      problems.push({ label, message: `What was given for “${label}” does not stand in any of these messages.` });
      return [];
    }
    const before = commonEnd(around.map(each => each.before));
    const after = commonStart(around.map(each => each.after));
    if (before === '' && around.some(each => each.order > 0)) {
      problems.push({ label, message: `Nothing that stays the same stands before “${label}”.` });
      return [];
    }
    if (after === '' && !around.every(each => each.isLast && each.after === '')) {
      problems.push({ label, message: `Nothing that stays the same stands after “${label}”.` });
      return [];
    }
    return [{ order: around[0]!.order, landmark: { label, before, after } }];
  });
  const landmarks = found.sort((a, b) => a.order - b.order).map(each => each.landmark);
  return { landmarks, problems };
}

/** Where the values stand in a message. One that stands there several times: the first after the value before it. */
function placesOf(text: string, values: LandmarkExample['values']): Placed[] {
  const placed: Placed[] = [];
  let from = 0;
  for (const { label, value } of values) {
    const even = evened(value).trim();
    if (even === '') continue;
    const isFree = (at: number) => !placed.some(each => at < each.end && at + even.length > each.start);
    let at = text.indexOf(even, from);
    if (at < 0) at = text.indexOf(even);
    while (at >= 0 && !isFree(at)) at = text.indexOf(even, at + 1);
    if (at < 0) continue;
    placed.push({ label, start: at, end: at + even.length });
    from = at + even.length;
  }
  return placed;
}

/** The longest text that all of them start with; of one alone, two words or the end of its line. */
function commonStart(texts: string[]): string {
  if (texts.length === 1) return firstWords(texts[0]!);
  const [first = '', ...rest] = texts;
  let length = first.length;
  for (const text of rest) while (!text.startsWith(first.slice(0, length))) length--;
  return first.slice(0, length);
}

/** The longest text that all of them end with; of one alone, two words. */
function commonEnd(texts: string[]): string {
  if (texts.length === 1) return lastWords(texts[0]!);
  const [first = '', ...rest] = texts;
  let length = first.length;
  for (const text of rest) while (!text.endsWith(first.slice(first.length - length))) length--;
  return first.slice(first.length - length);
}

/** Where the run of characters that are blank, or that are none, ends from a place on; `step` is 1 or -1. */
function endOfRun(text: string, from: number, step: 1 | -1, isIn: (character: string) => boolean): number {
  let at = from;
  while (at >= 0 && at < text.length && isIn(text[at]!)) at += step;
  return at;
}

const isSpace = (character: string) => /\s/.test(character);
const isWord = (character: string) => /\S/.test(character);
const isSpaceInLine = (character: string) => /[^\S\n]/.test(character);

/** The first two words with the blanks before them; where the first line holds neither letter nor figure, that line. */
function firstWords(text: string): string {
  const line = text.indexOf('\n');
  if (line >= 0 && /^[^\p{L}\d]*$/u.test(text.slice(0, line)) && text.slice(0, line).trim().split(/\s+/).length === 1)
    return text.slice(0, line + 1);
  const first = endOfRun(text, endOfRun(text, 0, 1, isSpace), 1, isWord);
  const second = endOfRun(text, first, 1, isSpaceInLine);
  const end = second > first ? endOfRun(text, second, 1, isWord) : first;
  return text.slice(0, end > second ? end : first);
}

/** The last two words with what is blank behind them. */
function lastWords(text: string): string {
  const last = endOfRun(text, endOfRun(text, text.length - 1, -1, isSpace), -1, isWord);
  const before = endOfRun(text, last, -1, isSpace);
  return text.slice(before < last && before >= 0 ? endOfRun(text, before, -1, isWord) + 1 : last + 1);
}
