import { type Answer, type PracticeForm } from '../form';
import { postOf, type BuilderKind } from '../kind';

function pairs(name: string, value: Answer | undefined, numbered: boolean): [string, string][] {
  if (value === undefined) return [[name, '']];
  if (Array.isArray(value))
    return value.flatMap((each, index) =>
      typeof each === 'string'
        ? [[`${name}[]`, each] satisfies [string, string]]
        : Object.entries(each).map(([part, text]): [string, string] => [
            numbered ? `${name}[${index}][${part}]` : `${name}_${part}[]`,
            String(text),
          ]),
    );
  if (typeof value === 'object') return Object.entries(value).map(([part, text]) => [`${name}[${part}]`, text]);
  return [[name, String(value)]];
}

const allPairs = (form: PracticeForm, answers: Record<string, Answer>, isNow: boolean) =>
  form.questions.flatMap(({ id }) => pairs(isNow ? `answers[${id}]` : id, answers[id], isNow));

/** Sends urlencoded values with nested brackets, as an HTML form would; earlier a list for each column of a table. */
export const bracketed: BuilderKind = {
  id: 'bracketed',
  summary: 'Sends urlencoded values with nested brackets, by POST or in the address.',
  way: 'push',
  generations: { now: 'rows in numbered brackets', earlier: 'a list for each column' },
  choosesMethod: true,
  signs: false,
  message(form, { entry, sent, answers }, { generation, method }) {
    const about: [string, string][] = [
      ['form[id]', form.ref],
      ['form[title]', form.title],
      ['entry_id', entry],
      ['created', sent],
    ];
    const text = new URLSearchParams([...about, ...allPairs(form, answers, generation === 'now')]).toString();
    if (method === 'GET') return { method, contentType: '', body: Buffer.alloc(0), query: text };
    return postOf('application/x-www-form-urlencoded', text);
  },
};
