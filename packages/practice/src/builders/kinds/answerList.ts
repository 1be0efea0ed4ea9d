import { isDocs, type Answer } from '../form';
import { postOf, type BuilderKind } from '../kind';

const asWords = (answer: Answer): string =>
  Array.isArray(answer) ? answer.map(each => (typeof each === 'string' ? each : '')).join(', ') : String(answer);

/**
 * Posts a list of labelled answers, the answer under a property that varies with the kind of question. Questions passed
 * over are in the list without an answer. Its earlier generation had every answer as text under one property.
 */
export const answerList: BuilderKind = {
  id: 'answer-list',
  summary: 'Posts a list of labelled answers as JSON, and can sign it.',
  way: 'push',
  generations: { now: 'the answer under its kind', earlier: 'every answer as text' },
  choosesMethod: false,
  signs: true,
  message(form, { entry, sent, answers, client }, { generation }) {
    const about = { form: { ref: form.ref, title: form.title }, entry, sent };
    if (generation === 'earlier') {
      const replies = form.questions.map(question => {
        const answer = answers[question.id];
        const text =
          answer === undefined ? '' : isDocs(question, answer) ? answer.map(doc => doc.href) : asWords(answer);
        return { q: question.id, ask: question.ask, said: text };
      });
      return postOf('application/json', JSON.stringify({ ...about, replies }));
    }
    const replies = form.questions.map(({ id, ask, kind }) => {
      const answer = answers[id];
      return answer === undefined ? { q: id, ask, as: kind } : { q: id, ask, as: kind, [kind]: answer };
    });
    return postOf('application/json', JSON.stringify({ ...about, replies, client }, null, 1));
  },
};
