import { defineCheck, pending, type Finding } from './check';

/** Every target answers as it should. */
export const targetsReached = defineCheck({
  id: 'targets',
  look: ({ reached = [] }) =>
    reached.flatMap(({ id, name, answer }): Finding[] =>
      answer
        ? [
            {
              tone: answer.ok ? (answer.isUntested ? 'look' : 'fine') : 'trouble',
              words: `${name}: ${answer.words}`,
              stops: !answer.ok,
              ...(!answer.ok && id !== undefined && { targetId: id }),
            },
          ]
        : pending(`Checking ${name}…`),
    ),
});
