import { defineCheck, pending } from './check';

/** Every target answers as it should. */
export const targetsReached = defineCheck({
  id: 'targets',
  look: ({ reached = [] }) =>
    reached.flatMap(({ name, answer }) =>
      answer
        ? [
            {
              tone: answer.ok ? (answer.isUntested ? ('look' as const) : ('fine' as const)) : ('trouble' as const),
              words: `${name}: ${answer.words}`,
              stops: !answer.ok,
            },
          ]
        : pending(`Checking ${name}…`),
    ),
});
