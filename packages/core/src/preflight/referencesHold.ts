import { referenceFaults } from '../route';
import { defineCheck, stop } from './check';

/** What a call uses of others is there when it is made. */
export const referencesHold = defineCheck({
  id: 'references',
  look({ definition }) {
    const [first, ...others] = referenceFaults(definition);
    if (!first) return [];
    const [, place] = /^\/calls\/(\d+)/.exec(first.pointer) ?? [];
    const where = place === undefined ? 'The condition' : `Call ${Number(place) + 1}`;
    const more = others.length > 0 ? ` So do ${others.length} other places.` : '';
    return stop(`${where}: ${first.message}${more}`, 'Give it another source, or change the order of the calls.');
  },
});
