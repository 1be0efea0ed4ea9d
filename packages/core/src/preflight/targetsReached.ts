import { defineCheck, pending } from './check';

/** Every target answers as it should. */
export const targetsReached = defineCheck({
  id: 'targets',
  look: ({ reached = [] }) =>
    reached.flatMap(({ name, answer }) =>
      answer
        ? [
            {
              tone: answer.ok ? ('fine' as const) : ('trouble' as const),
              words: `${name}: ${answer.words}`,
              stops: !answer.ok,
            },
          ]
        : pending(`Asking ${name}…`),
    ),
});
