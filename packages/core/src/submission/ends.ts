/** The text without those of `marks` that stand at its end. Linear in the text, which the pattern `/[marks]+$/` is not. */
export function withoutEnd(text: string, marks: string): string {
  let end = text.length;
  while (end > 0 && marks.includes(text[end - 1]!)) end--;
  return end === text.length ? text : text.slice(0, end);
}

/** The text up to the first of `marks`; all of it where there is none. Linear in the text. */
export function upToFirst(text: string, marks: string): string {
  for (let at = 0; at < text.length; at++) if (marks.includes(text[at]!)) return text.slice(0, at);
  return text;
}

/** The text behind the last of `marks`; all of it where there is none. Linear in the text. */
export function behindLast(text: string, marks: string): string {
  for (let at = text.length - 1; at >= 0; at--) if (marks.includes(text[at]!)) return text.slice(at + 1);
  return text;
}
