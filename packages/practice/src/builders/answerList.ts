import type { Filled, PracticeForm } from './form';

/** A message a builder sends to an intake. */
export interface Message {
  contentType: string;
  body: string;
}

/**
 * The answer-list builder's payload: a list of labelled answers, the answer under a property that varies with the
 * kind of question. Questions passed over are in the list without an answer.
 */
export function answerListMessage(form: PracticeForm, filled: Filled): Message {
  const replies = form.questions.map(({ id, ask, kind }) => {
    const answer = filled.answers[id];
    return answer === undefined ? { q: id, ask, as: kind } : { q: id, ask, as: kind, [kind]: answer };
  });
  const payload = {
    form: { ref: form.ref, title: form.title },
    entry: filled.entry,
    sent: filled.sent,
    replies,
    client: filled.client,
  };
  return { contentType: 'application/json', body: JSON.stringify(payload, null, 1) };
}
