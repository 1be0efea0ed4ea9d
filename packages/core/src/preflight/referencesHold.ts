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
    const more = others.length > 0 ? ` ${others.length} other places too.` : '';
    return stop(`${where}: ${first.message}${more}`, 'Choose another source, or reorder the calls.');
  },
});
