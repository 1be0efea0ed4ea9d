import { asText, setOwn, type Json, type JsonObject } from '../../submission';
import { speaksOf, speaksOnlyOf, tellingWords, tellsOnlyOf } from '../names';
import { aroundWorth } from '../evidence';
import type { EnvelopeReading, RawAnswer } from './reader';

/** Characters of the longest label that is taken for one, beside a value and above one. */
const [LONGEST_LABEL, LONGEST_QUESTION] = [80, 200];
/** Lines of one text that are read. */
const MOST_LINES = 20_000;

/** One line of a text, and what it can be. */
interface Line {
  text: string;
  /** Label and value, where it says both; the value may be empty. */
  said: [label: string, value: string] | null;
  isBlank: boolean;
  /** A line drawn with signs. */
  isRule: boolean;
}

const bullet = /^\s*(?:[-*•·‣–]|\(?\d{1,3}[.)])\s+/;

/** Without the stars that make a text bold in mails. */
const withoutStars = (text: string): string => {
  let [from, to] = [0, text.length];
  while (text[from] === '*') from += 1;
  while (to > from && text[to - 1] === '*') to -= 1;
  return text.slice(from, to).trim();
};

/** The label and the value of a line that says both; null for any other line. */
function labelAndValue(line: string): [label: string, value: string] | null {
  const asked = /^\s*(\S.{3,120}?[?？])(?:\s+(\S.*))$/.exec(line.slice(0, 2000));
  // `Which was best? The clock: it lied`: the question ends with its mark.
  // `**Stars:** 4`, `**What next?** More maps`: set in bold, a label ends with that.
  const bold = /^\s*(?:[-*•]\s+)?\*\*([^*]{1,160})\*\*:?\s+(\S.*)$/.exec(line.slice(0, 2000));
  if (bold)
    return [
      bold[1]!.replace(/[:：]\s*$/, '').trim(),
      line
        .slice(line.indexOf('**', line.indexOf(bold[1]!)) + 2)
        .replace(/^[:：]/, '')
        .trim(),
    ];
  if (asked && /[:：]/.test(asked[2]!) && !/^[:：(]/.test(asked[2]!))
    return [withoutStars(asked[1]!.replace(bullet, '')), line.slice(line.indexOf(asked[1]!) + asked[1]!.length).trim()];
  const colon = line.search(/[:：]/);
  if (colon < 1 || colon > 4 * LONGEST_LABEL) return null;
  const label = withoutStars(line.slice(0, colon).trim().replace(bullet, ''));
  const rest = line.slice(colon + 1).replace(/^\*+(?=\s|$)/, '');
  const isFree = rest === '' || /^\s/.test(rest) || line[colon] === '：';
  const fits = label !== '' && label.length <= LONGEST_LABEL && isFree;
  return fits && label.split(/\s+/).length <= 14 && !/^https?$/i.test(label) && !isSentence(label)
    ? [label, rest.trim()]
    : null;
}

/** A part of a sentence before its colon, not what a form asks. */
const isSentence = (label: string): boolean =>
  !/[?？]$/.test(label) &&
  (/[;!]|\.\s/.test(label) ||
    /^(I|We|He|She|It|They|There|This|That|And|But|So|Ich|Wir|Er|Sie haben|Je|J[’']ai|Nous|Il|Elle|Yo|Ik|Wij)\b\s+\p{Ll}/u.test(
      label,
    ));

const isRule = (line: string): boolean => /^\s*([-_=*~#.])(?:\s?\1){2,}\s*$/.test(line) || /^-- ?$/.test(line);

/** Blanks that a line goes on further in than the labels stand. */
const INDENT = 3;

const indentOf = (line: string): number => /^[ \t]*/.exec(line)![0].replaceAll('\t', '        ').length;

function linesOf(text: string): Line[] {
  const lines = text.split('\n', MOST_LINES).map((each): Line => {
    const drawn = isRule(each);
    return { text: each, said: drawn ? null : labelAndValue(each), isBlank: each.trim() === '', isRule: drawn };
  });
  // What stands further in than the labels goes on with the line above, whatever it says.
  const margin = lines.reduce((least, line) => (line.said ? Math.min(least, indentOf(line.text)) : least), Infinity);
  return lines.map(line => (line.said && indentOf(line.text) > margin + INDENT ? { ...line, said: null } : line));
}

/** A line that a rule below it makes a heading. */
const isHeadingAt = (lines: Line[], at: number): boolean =>
  !lines[at]!.isBlank && !lines[at]!.isRule && lines[at + 1]?.isRule === true && (lines[at - 1]?.isBlank ?? true);

/** Lines that stand together, without the headings that are underlined. */
function blocksOf(lines: Line[]): Line[][] {
  const blocks: Line[][] = [[]];
  lines.forEach((line, at) => {
    if (line.isBlank || line.isRule || isHeadingAt(lines, at)) {
      if (blocks.at(-1)!.length > 0) blocks.push([]);
    } else blocks.at(-1)!.push(line);
  });
  return blocks.filter(block => block.length > 0);
}

/** A line that may word a question by itself: it asks, announces, is numbered, or is a few words without a full stop. */
const mayAsk = ({ text }: Line): boolean => {
  const line = text.trim();
  return (
    line.length <= LONGEST_QUESTION &&
    (/[?？:：]\)?$/.test(line) ||
      /[?？]/.test(line) ||
      bullet.test(text) ||
      (line.length <= LONGEST_LABEL && !/[.!;,]$/.test(line)))
  );
};

const asks = ({ text }: Line): boolean => /[?？:：]\s*$/.test(text.trim()) || /^\s*\(?\d{1,3}[.)]\s/.test(text);

const wordingOf = (line: Line): string => {
  const wording = withoutStars(line.text.trim().replace(bullet, ''));
  return /[:：]$/.test(wording) ? wording.slice(0, -1).trimEnd() : wording;
};

/** True for a label that speaks of the submission itself: when it came, which it is, of which form, from whom. */
const isAround = (label: string, value: Json): boolean => {
  const words = tellingWords(label);
  if (words.length > 4 || /[?？]/.test(label)) return false;
  return (
    aroundWorth(label, value) >= 0.55 ||
    (words.length > 1 && speaksOf(label, 'form') && tellsOnlyOf(label, 'form', 'name'))
  );
};

/** The same among lines that all may: a block above the answers. */
const mayBeAround = (label: string): boolean =>
  tellsOnlyOf(label, 'form', 'name', 'id', 'time', 'submission', 'sender') && !speaksOnlyOf(label, 'name');

const answerOf = (label: string, value: string, pointer: string): RawAnswer => ({
  key: label,
  label,
  stated: null,
  value,
  pointer,
  options: null,
  other: null,
});

export interface TextReading extends Pick<EnvelopeReading, 'score' | 'why' | 'answersAt'> {
  answers: RawAnswer[];
  /** What the lines say of the submission itself, by their labels. */
  around: JsonObject;
}

/** A text whose lines say questions and answers: beside each other (`Label: value`), or the one above the other. */
export function readLabelledText(text: string, pointer: string): TextReading | null {
  const all = linesOf(text);
  // What follows is the sender's signature (RFC 3676, §4.3).
  const end = all.findIndex(line => /^-- ?\r?$/.test(line.text));
  const lines = end < 0 ? all : all.slice(0, end);
  const blocks = blocksOf(lines);
  return readStacked(blocks, pointer) ?? readBeside(lines, pointer);
}

/** Questions above their answers: in blocks whose first line asks. */
function readStacked(blocks: Line[][], pointer: string): TextReading | null {
  const isBeside = (block: Line[]) => block[0]!.said !== null && block[0]!.said[1] !== '';
  const several = blocks.filter(block => block.length > 1);
  /** A heading above lines that tell of the submission itself. */
  const isHead = ([, ...rest]: Line[]) =>
    rest.length > 0 && rest.every(line => line.said !== null && (isAround(...line.said) || mayBeAround(line.said[0])));
  const stacked = new Set(several.filter(block => !isBeside(block) && mayAsk(block[0]!) && !isHead(block)));
  const beside = blocks.filter(block => isBeside(block));
  const lonely = new Set(blocks.filter(block => block.length === 1 && asks(block[0]!) && !isBeside(block)));
  const found = stacked.size + lonely.size;
  const lines = [...stacked].flat().length + lonely.size;
  if (found < 2 || beside.length > found || beside.flat().length > lines) return null;
  const around: JsonObject = {};
  const answers: RawAnswer[] = [];
  let waiting: string | null = null;
  let stray = 0;
  for (const block of blocks) {
    const [first, ...rest] = block as [Line, ...Line[]];
    const told = rest.map(line => line.text.trim()).join('\n');
    if (waiting !== null && !stacked.has(block) && !asks(first)) {
      answers.push(answerOf(waiting, block.map(line => line.text.trim()).join('\n'), pointer));
      waiting = null;
    } else if (stacked.has(block)) {
      if (waiting !== null) answers.push(answerOf(waiting, '', pointer));
      waiting = null;
      answers.push(answerOf(wordingOf(first), told, pointer));
    } else if (lonely.has(block)) {
      if (waiting !== null) answers.push(answerOf(waiting, '', pointer));
      waiting = wordingOf(first);
    } else if (answers.length === 0) {
      // The head of the text.
      for (const { said } of block) if (said && said[1] !== '') setOwn(around, said[0], said[1]);
      stray += block.filter(line => line.said === null).length;
    } else if (isBeside(block) && block.every(line => line.said && isAround(...line.said))) {
      for (const { said } of block) setOwn(around, said![0], said![1]);
    } else {
      const last = answers.at(-1)!;
      last.value = `${String(last.value)}\n\n${block.map(line => line.text.trim()).join('\n')}`.trim();
      stray += 1;
    }
  }
  if (waiting !== null) answers.push(answerOf(waiting, '', pointer));
  if (answers.length < 2) return null;
  return {
    answers,
    around,
    score: Math.max(0.4, 0.8 - stray * 0.03),
    why: `${answers.length} questions of the text stand above their answers.`,
    answersAt: pointer,
  };
}

/** `Label: value` lines, as notification mails have them. A line without a label goes on with the value before it. */
function readBeside(lines: Line[], pointer: string): TextReading | null {
  const answers: RawAnswer[] = [];
  /** The lines of each answer. */
  const told: string[][] = [];
  /** Answers up to the first blank line or rule after one. */
  let headed = 0;
  let [stray, blankBefore] = [0, false];
  const laterLabels = labelsAfter(lines);
  for (const [at, line] of lines.entries()) {
    if ((line.isRule || line.isBlank) && headed === 0) headed = answers.length;
    // A letter's last words are nobody's answer.
    if (blankBefore && answers.length > 0 && laterLabels[at]! === 0 && closing.test(line.text.trim())) break;
    if (line.isRule) {
      // Below the last rule a text says who sent it, not what was answered.
      if (answers.length > 0 && laterLabels[at]! === 0) break;
      blankBefore = true;
    } else if (line.isBlank) blankBefore = true;
    else if (line.said === null && isHeadingAt(lines, at)) continue;
    else if (line.said) {
      const [label, value] = line.said;
      told.push([value]);
      answers.push(answerOf(label, '', pointer));
      blankBefore = false;
    } else if (answers.length > 0) {
      const last = told.at(-1)!;
      if (blankBefore && last.some(Boolean)) last.push('');
      last.push(last[0] === '' ? line.text.trim().replace(/^[-*•·]\s+/, '') : line.text.trim());
      blankBefore = false;
    } else stray += 1;
  }
  if (answers.length < 2) return null;
  answers.forEach((answer, index) => (answer.value = told[index]!.join('\n').trim()));
  const { own, around } = withoutHead(inTurns(answers) ?? answers, headed);
  return {
    answers: own,
    around,
    score: Math.max(0.4, 0.8 - stray * 0.03),
    why: `${own.length} lines of the text say “label: value”.`,
    answersAt: pointer,
  };
}

/** How many lines from each on say a label and a value. */
function labelsAfter(lines: Line[]): number[] {
  const counts = new Array<number>(lines.length + 1).fill(0);
  for (let at = lines.length - 1; at >= 0; at--) counts[at] = counts[at + 1]! + (lines[at]!.said ? 1 : 0);
  return counts;
}

/** `Q: Which trail?`, `A: The north loop`: two labels in turns say the question and the answer. Null for any other. */
function inTurns(answers: RawAnswer[]): RawAnswer[] | null {
  if (answers.length < 4 || answers.length % 2 === 1) return null;
  const [first, second] = [answers[0]!.label, answers[1]!.label];
  if (first === second || !answers.every(({ label }, index) => label === (index % 2 === 0 ? first : second)))
    return null;
  const asked = answers.filter((_, index) => index % 2 === 0);
  if (new Set(asked.map(each => each.value)).size < asked.length) return null;
  return asked.map((each, index) => answerOf(asText(each.value), asText(answers[2 * index + 1]!.value), each.pointer));
}

/** Words that a letter ends with. Common practice, no source. */
const closing =
  /^(regards|best regards|kind regards|best|cheers|thanks|thank you|yours|sincerely|mit freundlichen grüßen|viele grüße|cordialement|saludos|atentamente|groeten|met vriendelijke groet)\b/i;

/** The same, with the whole block above the answers where each of its lines may speak of the submission. */
function withoutHead(answers: RawAnswer[], headed: number): { own: RawAnswer[]; around: Record<string, string> } {
  const head = answers.slice(0, headed);
  const isHead = headed > 0 && headed < answers.length && head.every(each => mayBeAround(each.label));
  if (!isHead) return withoutAround(answers);
  const { own, around } = withoutAround(answers.slice(headed));
  return { own, around: { ...Object.fromEntries(head.map(({ label, value }) => [label, asText(value)])), ...around } };
}

/** Takes what speaks of the submission itself off the head and the foot, as long as answers remain. */
export function withoutAround(answers: RawAnswer[]): { own: RawAnswer[]; around: Record<string, string> } {
  const around: Record<string, string> = {};
  const put = ({ label, value }: RawAnswer) =>
    Object.defineProperty(around, label, {
      value: asText(value),
      enumerable: true,
      configurable: true,
      writable: true,
    });
  const speaks = ({ label, value }: RawAnswer) => isAround(label, value);
  let [from, to] = [0, answers.length];
  // A line that may speak of it does so between others that do.
  while (from < to && mayBeAround(answers[from]!.label)) from += 1;
  if (!answers.slice(0, from).some(speaks)) from = 0;
  while (from > 0 && !speaks(answers[from - 1]!)) from -= 1;
  while (from < to && speaks(answers[from]!)) from += 1;
  while (to > from && speaks(answers[to - 1]!)) to -= 1;
  if (to - from < 1) return { own: answers, around };
  answers.slice(0, from).forEach(put);
  answers.slice(to).forEach(put);
  return { own: answers.slice(from, to), around };
}
