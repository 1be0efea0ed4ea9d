import type { EnvelopeReading, RawAnswer } from './reader';

/** Longest label that is taken for one, in characters and words. */
const LONGEST_LABEL = 80;
const line = /^\s*(?:[-*•]\s*)?([^:\n]{1,80}?)\s*:(?:\s+(.*)|\s*)$/;

/** `Label: value` lines, as notification mails have them. A line without a label goes on with the value before it. */
export function readLabelledText(
  text: string,
  pointer: string,
): (Pick<EnvelopeReading, 'score' | 'why' | 'answersAt'> & { answers: RawAnswer[] }) | null {
  const answers: RawAnswer[] = [];
  let stray = 0;
  let blankBefore = false;
  for (const each of text.split('\n')) {
    if (/^\s*(--|__|==|\*\*)/.test(each) || /^\s*-- ?$/.test(each)) {
      if (answers.length > 0) break;
      continue;
    }
    const [, label = '', value = ''] = line.exec(each) ?? [];
    if (label && label.length <= LONGEST_LABEL && label.split(/\s+/).length <= 14 && !/^https?$/i.test(label)) {
      answers.push({
        key: label.trim(),
        label: label.trim(),
        stated: null,
        value: value.trim(),
        pointer,
        options: null,
        other: null,
      });
      blankBefore = false;
    } else if (each.trim() === '') {
      blankBefore = true;
    } else if (answers.length > 0) {
      const last = answers.at(-1)!;
      last.value = `${String(last.value)}${blankBefore && last.value !== '' ? '\n' : ''}\n${each.trim()}`.trim();
      blankBefore = false;
    } else {
      stray += 1;
    }
  }
  if (answers.length < 2) return null;
  return {
    answers,
    score: Math.max(0.4, 0.8 - stray * 0.03),
    why: `${answers.length} lines of the text say “label: value”.`,
    answersAt: pointer,
  };
}
