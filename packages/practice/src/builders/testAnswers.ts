import type { Answer, Answers, PracticeForm, Question } from './form';

/** The smallest PNG there is: one pixel. */
export const onePixel = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

function testAnswer({ kind, ask, options = [], parts = [] }: Question): Answer {
  const filled = () => Object.fromEntries(parts.map(part => [part.id, part.options?.[0] ?? `Test ${part.ask}`]));
  switch (kind) {
    case 'pick':
      return options[0] ?? 'Test';
    case 'picks':
      return options.slice(0, 2);
    case 'mail':
      return 'test@example.org';
    case 'figure':
      return 1;
    case 'consent':
      return true;
    case 'moment':
      return '01/01/2026 12:00';
    case 'docs':
      return [
        {
          name: 'test.png',
          href: 'https://files.example.org/test.png',
          bytes: onePixel.length,
          mime: 'image/png',
          content: onePixel,
        },
      ];
    case 'rows':
      return [filled()];
    case 'place':
      return filled();
    default:
      return `Test ${ask}`;
  }
}

/** What a builder sends when its owner asks for a test: every question, with an answer that nobody would give. */
export const testAnswers = ({ questions }: PracticeForm): Answers =>
  Object.fromEntries(questions.map(question => [question.id, testAnswer(question)]));
