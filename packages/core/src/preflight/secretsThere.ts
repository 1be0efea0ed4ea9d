import { defineCheck, look, stop, type Finding } from './check';

/** Every target can be shown who asks. */
export const secretsThere = defineCheck({
  id: 'secrets',
  look: ({ targets }) =>
    targets.flatMap(({ name, access }): Finding[] => {
      if (access === 'missing') return look(`${name} has no secret to show who asks: requests go without.`);
      if (access === 'consent')
        return stop(`Nobody has given consent for ${name}, or it has ended.`, 'Give it on the target’s page.');
      return [];
    }),
});
