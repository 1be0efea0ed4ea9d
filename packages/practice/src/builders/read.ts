import type { IncomingMessage } from 'node:http';
import { randomUUID } from 'node:crypto';
import { createWriteStream, mkdirSync } from 'node:fs';
import path from 'node:path';
import { finished } from 'node:stream/promises';
import busboy from 'busboy';
import type { Answers, Doc, Parts, PracticeForm, Question } from './form';

const MOST_PHOTOS = 10;

/** Reads a filled-in page: text answers, and files into a folder. `hrefFor` gives the address a file is served under. */
export async function readFilledPage(
  request: IncomingMessage,
  form: PracticeForm,
  folder: string,
  hrefFor: (id: string, name: string) => string,
): Promise<Answers> {
  const texts: [string, string][] = [];
  const docs: Promise<[string, Doc] | null>[] = [];
  const parser = busboy({
    headers: request.headers,
    defParamCharset: 'utf8',
    limits: { files: MOST_PHOTOS, fileSize: 50_000_000 },
  });
  parser.on('field', (name, value) => texts.push([name, value]));
  parser.on('file', (question, stream, { filename, mimeType }) => {
    if (!filename) return void stream.resume();
    const id = randomUUID();
    const name = path.basename(filename);
    mkdirSync(path.join(folder, id), { recursive: true });
    const file = createWriteStream(path.join(folder, id, 'content'));
    docs.push(
      finished(stream.pipe(file)).then(() =>
        file.bytesWritten === 0
          ? null
          : [question, { name, href: hrefFor(id, name), bytes: file.bytesWritten, mime: mimeType }],
      ),
    );
  });
  request.pipe(parser);
  await finished(parser);
  return answersFrom(
    form,
    texts,
    (await Promise.all(docs)).filter(each => each !== null),
  );
}

function answersFrom(form: PracticeForm, texts: [string, string][], docs: [string, Doc][]): Answers {
  const answers: Answers = {};
  for (const question of form.questions) {
    const { id, kind, options = [] } = question;
    const given = texts.filter(([name, value]) => name === id && value.trim() !== '').map(([, value]) => value);
    if (kind === 'rows' || kind === 'place') {
      const read = kind === 'rows' ? rowsOf(question, texts) : partsOf(question, texts, `${id}.`);
      if (Array.isArray(read) ? read.length > 0 : Object.values(read).some(Boolean)) answers[id] = read;
    } else if (kind === 'docs') {
      const own = docs.filter(([question]) => question === id).map(([, doc]) => doc);
      if (own.length > 0) answers[id] = own;
    } else if (kind === 'consent') answers[id] = given.length > 0;
    else if (given.length === 0) continue;
    else if (kind === 'picks') answers[id] = given.map(each => (options.includes(each) ? each : `Other: ${each}`));
    else answers[id] = kind === 'figure' ? Number(given[0]) : given[0]!;
  }
  return answers;
}

const partsOf = ({ parts = [] }: Question, texts: [string, string][], before: string): Parts =>
  Object.fromEntries(parts.map(part => [part.id, texts.find(([name]) => name === before + part.id)?.[1].trim() ?? '']));

/** The rows of a table question that have something in them. */
function rowsOf(question: Question, texts: [string, string][]): Parts[] {
  const numbers = texts.flatMap(([name]) => (name.startsWith(`${question.id}.`) ? [Number(name.split('.')[1])] : []));
  return [...new Set(numbers)]
    .map(row => partsOf(question, texts, `${question.id}.${row}.`))
    .filter(row => Object.values(row).some(Boolean));
}
