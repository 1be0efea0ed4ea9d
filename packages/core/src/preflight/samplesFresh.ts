import { defineCheck, look } from './check';

/** Days after which samples say little about what a form asks today. */
const OLD = 60;
const DAY = 86_400_000;

/** There are samples of the form as it is now: what was recorded long ago may be no like of what comes. */
export const samplesFresh = defineCheck({
  id: 'samples',
  look({ newestAt, now }) {
    if (newestAt === undefined || newestAt === null || now === undefined) return [];
    const days = Math.floor((now - newestAt) / DAY);
    return days >= OLD ? look(`The newest sample is ${days} days old. The form may have changed since.`) : [];
  },
});
