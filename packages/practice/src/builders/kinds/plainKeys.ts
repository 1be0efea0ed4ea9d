import type { Answer, PracticeForm } from '../form';
import { postOf, type BuilderKind } from '../kind';

/** The key a question has in the payload: its wording, as the builder shortens it. */
export const keyOf = (ask: string): string =>
  ask
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter(Boolean)
    .join('_')
    .slice(0, 32);

function flat(form: PracticeForm, answers: Record<string, Answer>, list: (items: string[]) => string) {
  const entries = form.questions.map(({ ask, id, kind }) => {
    const answer = answers[id];
    if (kind === 'consent') return [keyOf(ask), answer === true ? 'yes' : ''];
    if (answer === undefined) return [keyOf(ask), ''];
    return [keyOf(ask), Array.isArray(answer) ? list(answer as string[]) : String(answer)];
  });
  return Object.fromEntries(entries) as Record<string, string>;
}

/** Posts one flat object. A choose-many answer is text that holds a JSON list; it was commas in the earlier generation. */
export const plainKeys: BuilderKind = {
  id: 'plain-keys',
  summary: 'Posts one flat JSON object; a choose-many answer is text that holds a list.',
  way: 'push',
  generations: { now: 'choose-many as a JSON list in text', earlier: 'choose-many with commas' },
  choosesMethod: true,
  signs: false,
  message(form, { entry, sent, answers }, { generation, method }) {
    const list = generation === 'now' ? JSON.stringify : (items: string[]) => items.join(', ');
    const payload = { form_name: form.title, submission_id: entry, submitted_at: sent, ...flat(form, answers, list) };
    if (method === 'POST') return postOf('application/json', JSON.stringify(payload));
    return { method, contentType: '', body: Buffer.alloc(0), query: new URLSearchParams(payload).toString() };
  },
};
