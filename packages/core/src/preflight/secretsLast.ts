import { defineCheck, look, stop, type Finding } from './check';

/** Days before a secret ends from which on that is told. */
const SOON = 14;
const DAY = 86_400_000;

/** Secrets of the targets hold for a while yet. */
export const secretsLast = defineCheck({
  id: 'secrets-last',
  look: ({ targets, now }) =>
    targets.flatMap(({ name, endsAt }): Finding[] => {
      if (endsAt === undefined || now === undefined) return [];
      const days = Math.floor((endsAt - now) / DAY);
      if (endsAt <= now) return stop(`The secret for ${name} has expired.`, 'Enter a new one on the target’s page.');
      return days < SOON
        ? look(
            `The secret for ${name} expires in ${days === 0 ? 'less than a day' : days === 1 ? 'a day' : `${days} days`}.`,
          )
        : [];
    }),
});
