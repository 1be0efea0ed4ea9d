import type { Answer } from '../form';
import type { BuilderKind } from '../kind';

const words = (answer: Answer | undefined): string =>
  answer === undefined
    ? ''
    : answer === true
      ? 'Yes'
      : answer === false
        ? 'No'
        : Array.isArray(answer)
          ? (answer as string[]).join(', ')
          : String(answer);

const escaped = (text: string) => text.replace(/[&<>]/g, each => `&#${each.charCodeAt(0)};`).replaceAll('\n', '<br>');

/** Notifies by mail with `Label: value` lines; its next generation is an HTML table. */
export const notification: BuilderKind = {
  id: 'notification',
  summary: 'Notifies by mail: lines of “label: value”, or an HTML table.',
  way: 'mail',
  generations: { now: 'text, label: value', earlier: 'an HTML table' },
  choosesMethod: false,
  signs: false,
  notification(form, { answers }, { generation }) {
    const answered = form.questions.map(({ id, ask }) => [ask.replace(/[?:]$/, ''), words(answers[id])] as const);
    const subject = `New answer: ${form.title}`;
    if (generation === 'earlier') {
      const rows = answered.map(([ask, text]) => `<tr><td>${escaped(ask)}:</td><td>${escaped(text)}</td></tr>`);
      return { subject, html: `<html><body><p>Hello,</p><table>${rows.join('')}</table></body></html>` };
    }
    const lines = answered.map(([ask, text]) => `${ask}: ${text}`);
    return {
      subject,
      text: `Somebody filled in ${form.title}\n\n${lines.join('\n')}\n\n-- \nSent by the practice yard`,
    };
  },
};
