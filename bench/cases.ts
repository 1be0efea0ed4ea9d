import type { CallParts, Sample } from '@grammata/core/rehearse';
import { newLine, type Line } from '@grammata/core/route';
import type { Json, Submission } from '@grammata/core/submission';

const LINES = 20;

/** Samples with twenty text answers each. */
export function samples(count: number): Sample[] {
  return Array.from({ length: count }, (_, index) => {
    const fields = Array.from({ length: LINES }, (_, at) => ({
      key: `q${at}`,
      label: `Question ${at}`,
      kind: 'text' as const,
      value: `  ["Foam ${index}","Oil  Sheen","Answer ${at}"] `,
      pointer: `/q${at}`,
    }));
    const submission: Submission = {
      form: null,
      id: String(index),
      submittedAt: null,
      meta: {},
      fields,
      files: [],
      questions: [],
    };
    return { id: String(index), receivedAt: '2026-11-04T08:12:06Z', submission };
  });
}

const lines = Array.from({ length: LINES }, (_, at): Line => ({
  ...newLine(`l${at}`, `f${at}`),
  source: { from: 'field', field: `q${at}` },
  cleaning: [
    { id: 'list.read', params: {} },
    { id: 'text.case', params: { to: 'lower' } },
    { id: 'list.join', params: { separator: '; ' } },
  ],
}));

export const route: CallParts = {
  condition: { all: [] },
  call: { id: 'c', targetId: 't', operationId: 'o', lines },
  operation: {
    id: 'o',
    label: 'O',
    method: 'POST',
    path: '/records',
    fields: lines.map(line => ({
      key: line.to,
      pointer: `/values/${line.to}`,
      label: line.to,
      type: 'text',
      required: false,
      readOnly: false,
      options: null,
      maxLength: 500,
      description: null,
    })),
  },
  baseUrl: 'https://register.example.org',
  context: { timeZone: 'UTC' },
};

/** Sixty lines over the same answers, three of each; the words of the first one's last step change at a keystroke. */
export function wideRoute(word: string): CallParts {
  const many = [0, 1, 2].flatMap(round =>
    lines.map((line): Line => ({ ...line, id: `${line.id}.${round}`, to: `${line.to}.${round}` })),
  );
  const [first, ...others] = many as [Line, ...Line[]];
  const typed: Line = {
    ...first,
    cleaning: [...first.cleaning, { id: 'text.surround', params: { before: word, after: '' } }],
  };
  const fields = many.map(line => ({ ...route.operation.fields[0]!, key: line.to, pointer: `/values/${line.to}` }));
  return {
    ...route,
    call: { ...route.call, lines: [typed, ...others] },
    operation: { ...route.operation, fields },
  };
}

/** The same route as a developer would write it for this one form. */
export function byHand(submission: Submission): { method: string; url: string; body: Json } {
  const values: Record<string, Json> = {};
  const answers = new Map(submission.fields.map(field => [field.key, field.value]));
  for (let at = 0; at < LINES; at++) {
    const answer = answers.get(`q${at}`);
    if (typeof answer !== 'string' || answer.trim() === '') continue;
    const list = JSON.parse(answer) as string[];
    const text = list
      .map(item => item.toLowerCase())
      .filter(item => item.trim() !== '')
      .join('; ');
    if (text.length > 500) throw new Error(`f${at} is too long`);
    values[`f${at}`] = text;
  }
  return { method: 'POST', url: 'https://register.example.org/records', body: { values } };
}

/** A list of labelled answers of about so many bytes. */
export function payload(bytes: number): string {
  const answers: Json[] = [];
  const document = { form: { ref: 'f1', title: 'Bench' }, entry: 'e1', sent: '2026-11-04T08:12:06Z', answers };
  while (JSON.stringify(document).length < bytes) {
    const n = answers.length;
    answers.push({
      ref: `q${n}`,
      ask: `What about thing number ${n}?`,
      type: n % 3 ? 'text' : 'choices',
      value: n % 3 ? `Some answer in words, ${n}` : ['One', 'Two'],
    });
  }
  return JSON.stringify(document);
}
