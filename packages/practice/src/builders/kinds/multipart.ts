import { randomBytes } from 'node:crypto';
import type { Answer, Doc, Question } from '../form';
import { postOf, type BuilderKind } from '../kind';

/** Names in Content-Disposition as the HTML Standard writes them (multipart/form-data encoding algorithm). */
const quoted = (name: string) => name.replace(/\r?\n/g, '%0D%0A').replace(/"/g, '%22');

function partsOf({ kind }: Question, answer: Answer | undefined): (string | Doc)[] {
  if (kind === 'docs') return answer === undefined ? [{ name: '', href: '', bytes: 0, mime: '' }] : (answer as Doc[]);
  if (kind === 'consent') return answer === true ? ['on'] : [];
  if (answer === undefined) return [''];
  return Array.isArray(answer) ? (answer as string[]) : [String(answer)];
}

function part(boundary: string, name: string, value: string | Doc): Buffer {
  const head = `--${boundary}\r\nContent-Disposition: form-data; name="${quoted(name)}"`;
  if (typeof value === 'string') return Buffer.from(`${head}\r\n\r\n${value}\r\n`);
  const type = value.mime || 'application/octet-stream';
  const start = Buffer.from(`${head}; filename="${quoted(value.name)}"\r\nContent-Type: ${type}\r\n\r\n`);
  return Buffer.concat([start, value.content ?? Buffer.alloc(0), Buffer.from('\r\n')]);
}

/** Posts multipart with the files themselves (RFC 7578), an empty part where none was chosen; earlier under `file1`, `file2`. */
export const multipart: BuilderKind = {
  id: 'multipart',
  summary: 'Posts multipart form data with the files in it.',
  way: 'push',
  generations: { now: 'files under their question', earlier: 'files as file1, file2…' },
  choosesMethod: false,
  signs: false,
  message(form, { entry, sent, answers }, { generation }) {
    const boundary = `yard-${randomBytes(12).toString('hex')}`;
    const about = [
      ['form', form.title],
      ['entry', entry],
      ['sent_at', sent],
    ].map(([name, value]) => part(boundary, name!, value!));
    const own = form.questions.flatMap(question =>
      partsOf(question, answers[question.id]).map((value, index) =>
        part(
          boundary,
          question.kind !== 'docs' ? question.id : generation === 'now' ? `${question.id}[]` : `file${index + 1}`,
          value,
        ),
      ),
    );
    const body = Buffer.concat([...about, ...own, Buffer.from(`--${boundary}--\r\n`)]);
    return postOf(`multipart/form-data; boundary=${boundary}`, body);
  },
};
