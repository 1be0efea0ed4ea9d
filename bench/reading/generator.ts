import { decode } from '@grammata/core/decode';
import type { Json, Submission } from '@grammata/core/submission';
import { draw, jsonOf, textOf, type Answer, type Draw, type Drawn, type Half } from './draw';
import { media, type Rendered } from './media';

export interface Judged {
  right: number;
  facts: number;
  wrong: string[];
  how: string;
  isSure: boolean;
}

const wordsOf = (text: string): string =>
  text
    .normalize('NFKC')
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .join(' ');
const lastOf = (key: string): string =>
  key
    .split(/[.[\]]+/)
    .filter(Boolean)
    .at(-1) ?? key;
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** The value that a reader gets of an answer by a medium. */
function wanted(answer: Answer, rendered: Rendered): Json[] {
  const { asked, value } = answer;
  if (rendered.isText) {
    if (Array.isArray(value))
      return rendered.isListed || value.length > 1 ? [value, textOf(answer)] : [value, value[0]!];
    return asked.sort === 'boolean' ? [value === 'true', value!] : [value!];
  }
  return [jsonOf(answer)];
}

/** Draws one message, reads it, and says what of it was read right. */
export function judged(seed: number, half: Half): Judged {
  const drawn = draw(seed, half);
  const rendered = drawn.chance.of(media.filter(each => each.half === half)).render(drawn);
  const { submissions, envelope } = decode(rendered.body, rendered.type, rendered.query);
  const result: Judged = {
    right: 0,
    facts: 0,
    wrong: [],
    how: `${seed} ${rendered.how}, ${drawn.vocabulary.name}`,
    isSure: envelope?.isSure ?? false,
  };
  const fact = (what: string, got: unknown, ...right: unknown[]) => {
    result.facts += 1;
    if (right.some(each => same(got, each))) result.right += 1;
    else result.wrong.push(`${what}: ${JSON.stringify(got)} for ${JSON.stringify(right[0])}`);
  };
  fact('submissions', submissions.length, drawn.submissions.length);
  drawn.submissions.forEach((each, index) => judgeOne(each, submissions[index], rendered, drawn, fact));
  return result;
}

function judgeOne(
  one: Drawn,
  got: Submission | undefined,
  rendered: Rendered,
  { form }: Draw,
  fact: (what: string, got: unknown, ...right: unknown[]) => void,
): void {
  const { tells } = rendered;
  if (tells.id) fact('id', got?.id ?? null, one.id);
  if (tells.time) fact('time', got?.submittedAt ?? null, one.time);
  if (tells.form === 'both') fact('form', [got?.form?.key, got?.form?.name], [form.key, form.name]);
  if (tells.form === 'name') fact('form', got?.form?.name ?? got?.form?.key ?? null, form.name);
  const left = new Set(got?.fields ?? []);
  for (const answer of one.answers) {
    if (answer.value === null) continue;
    const { asked } = answer;
    const field = [...left].find(
      each =>
        (rendered.isKeyed && (each.key === asked.key || lastOf(each.key) === asked.key)) ||
        wordsOf(each.label) === wordsOf(rendered.isWorded ? asked.label : asked.key),
    );
    if (field) left.delete(field);
    fact(`${asked.label} is there`, field !== undefined, true);
    fact(`${asked.label} label`, field && wordsOf(field.label), wordsOf(rendered.isWorded ? asked.label : asked.key));
    if (rendered.isKeyed) fact(`${asked.label} key`, field && lastOf(field.key), asked.key);
    fact(`${asked.label} value`, field?.value ?? null, ...wanted(answer, rendered));
  }
  for (const extra of left) fact(`extra ${extra.label}`, extra.value, undefined);
}
