import type { EnvelopeReading, RawAnswer } from './reader';

/** Characters of the longest label that is taken for one. */
const LONGEST_LABEL = 80;
/** Lines of one text that are read. */
const MOST_LINES = 20_000;

/** The label and the value of a line that says both; null for any other line. */
function labelAndValue(line: string): [label: string, value: string] | null {
  const colon = line.indexOf(':');
  if (colon < 1) return null;
  const label = line
    .slice(0, colon)
    .trim()
    .replace(/^[-*•]\s*/, '');
  const rest = line.slice(colon + 1);
  const fits = label !== '' && label.length <= LONGEST_LABEL && (rest === '' || /^\s/.test(rest));
  return fits && label.split(/\s+/).length <= 14 && !/^https?$/i.test(label) ? [label, rest.trim()] : null;
}

/** `Label: value` lines, as notification mails have them. A line without a label goes on with the value before it. */
export function readLabelledText(
  text: string,
  pointer: string,
): (Pick<EnvelopeReading, 'score' | 'why' | 'answersAt'> & { answers: RawAnswer[] }) | null {
  const answers: RawAnswer[] = [];
  /** The lines of each answer. */
  const lines: string[][] = [];
  let stray = 0;
  let blankBefore = false;
  for (const each of text.split('\n', MOST_LINES)) {
    if (/^\s*(--|__|==|\*\*)/.test(each)) {
      if (answers.length > 0) break;
      continue;
    }
    const said = labelAndValue(each);
    if (said) {
      const [label, value] = said;
      lines.push([value]);
      answers.push({ key: label, label, stated: null, value: '', pointer, options: null, other: null });
      blankBefore = false;
    } else if (each.trim() === '') {
      blankBefore = true;
    } else if (answers.length > 0) {
      const last = lines.at(-1)!;
      if (blankBefore && last.some(Boolean)) last.push('');
      last.push(each.trim());
      blankBefore = false;
    } else {
      stray += 1;
    }
  }
  if (answers.length < 2) return null;
  answers.forEach((answer, index) => (answer.value = lines[index]!.join('\n').trim()));
  return {
    answers,
    score: Math.max(0.4, 0.8 - stray * 0.03),
    why: `${answers.length} lines of the text say “label: value”.`,
    answersAt: pointer,
  };
}
