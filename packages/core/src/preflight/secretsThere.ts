import { defineCheck, look, stop, type Finding } from './check';

/** Every target can be shown who asks. */
export const secretsThere = defineCheck({
  id: 'secrets',
  look: ({ targets }) =>
    targets.flatMap(({ name, access }): Finding[] => {
      if (access === 'missing') return look(`${name} has no credentials. Requests are sent without.`);
      if (access === 'consent')
        return stop(`No consent for ${name}, or it has expired.`, 'Give consent on the target’s page.');
      return [];
    }),
});
