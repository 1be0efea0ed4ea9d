import { escapeToken, isJsonObject, type Json } from '../../submission';
import { readLabelledText } from './labelledText';
import type { Place } from './place';

/** Texts of one document that are read line by line, the longest. */
const MOST_TEXTS = 4;
const DEEPEST_TEXT = 5;

/** Texts of several lines that say `Label: value`, or a question above each answer. */
export function textPlaces(document: Json, at: string): Place[] {
  const found: { text: string; name: string; pointer: string }[] = [];
  const visit = (value: Json, pointer: string, name: string, depth: number) => {
    if (typeof value === 'string' && value.includes('\n')) found.push({ text: value, name, pointer });
    else if (isJsonObject(value) && depth > 0)
      for (const [key, each] of Object.entries(value)) visit(each, `${pointer}/${escapeToken(key)}`, key, depth - 1);
  };
  visit(document, at, '', DEEPEST_TEXT);
  return found
    .sort((a, b) => b.text.length - a.text.length)
    .slice(0, MOST_TEXTS)
    .flatMap(({ text, name, pointer }) => {
      const read = readLabelledText(text, pointer);
      if (!read) return [];
      const isNamed = name === '' || /^(text|body|plain|message|content|summary|html)/i.test(name);
      return [
        {
          reader: 'labelled-text',
          label: 'lines of “label: value”',
          at: pointer,
          answers: read.answers,
          covers: [pointer],
          trust: read.score * (isNamed ? 0.95 : 0.75),
          isWorded: true,
          why: read.why,
          said: read.around as Record<string, string>,
        },
      ];
    });
}
