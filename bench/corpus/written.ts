import { decode } from '@grammata/core/decode';
import type { Json } from '@grammata/core/submission';

/**
 * Payloads that were written when the reading was done, all of them before any was read. Their first result is told in the bench;
 * what failed was mended afterwards.
 */
export interface Written {
  name: string;
  type: string | null;
  query?: string;
  body: string;
  submissions: {
    /** Key and name, as far as the payload tells them. */
    form?: [key: string | null, name: string | null];
    id?: string;
    at?: string;
    answers: Record<string, Json>;
    /** Question, name of the file. */
    files?: [question: string, name: string][];
  }[];
}

const wordsOf = (text: string) =>
  text
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .join(' ');

/** How many of the facts are read right; what is made up counts against it. */
export function scoreWritten({ name, type, query = '', body, submissions }: Written): {
  right: number;
  facts: number;
  wrong: string[];
} {
  const read = decode(new TextEncoder().encode(body), type, query).submissions;
  const result = { right: 0, facts: 0, wrong: [] as string[] };
  const fact = (what: string, isRight: boolean) => {
    result.facts += 1;
    if (isRight) result.right += 1;
    else result.wrong.push(`${name}: ${what}`);
  };
  fact('submissions', read.length === submissions.length);
  submissions.forEach((wanted, index) => {
    const got = read[index];
    if (wanted.form) {
      const [key, called] = wanted.form;
      if (key !== null) fact('form key', got?.form?.key === key);
      if (called !== null) fact('form name', (got?.form?.name ?? got?.form?.key) === called);
    }
    if (wanted.id !== undefined) fact('id', got?.id === wanted.id);
    if (wanted.at !== undefined) fact('time', got?.submittedAt === wanted.at);
    const left = [...(got?.fields ?? [])];
    for (const [label, value] of Object.entries(wanted.answers)) {
      const at = left.findIndex(each => wordsOf(each.label) === wordsOf(label));
      const [field] = at < 0 ? [] : left.splice(at, 1);
      fact(`${label} is there`, field !== undefined);
      fact(`${label} value ${JSON.stringify(field?.value)}`, JSON.stringify(field?.value) === JSON.stringify(value));
    }
    for (const each of left) fact(`extra ${each.label}`, false);
    const files = [...(got?.files ?? [])];
    for (const [question, called] of wanted.files ?? []) {
      const at = files.findIndex(each => each.name === called);
      const [file] = at < 0 ? [] : files.splice(at, 1);
      fact(`file ${called}`, file !== undefined);
      fact(`file of ${question}`, file !== undefined && wordsOf(file.field).endsWith(wordsOf(question)));
    }
    for (const each of files) fact(`extra file ${each.name}`, false);
  });
  return result;
}
