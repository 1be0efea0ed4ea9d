import { sites } from '@grammata/practice';
import { people } from '../people';
import { given, pastOf, type PastAnswer } from './past';

/** Who went through which gate: rows of a log that is read, not pushed. */
export const pastAccessRows = (until: number): PastAnswer[] =>
  pastOf(
    {
      seed: 20260920,
      count: 58,
      days: 20,
      letter: 'r',
      answers: (random, at) => {
        const out = at.plus({ minutes: 25 + random.below(180) });
        return given({
          a1: random.pick(sites),
          a2: random.pick(people).name,
          a3: at.toFormat(random.pick(['HH:mm', 'H.mm', 'h:mm a']), { locale: 'en' }),
          a4: random.chance(0.85) ? out.toFormat('HH:mm') : undefined,
          a5: random.chance(0.9),
          a6: random.chance(0.15)
            ? random.pick(['lock is stiff', 'left the gate as found', 'met two anglers'])
            : undefined,
        });
      },
    },
    until,
  );
