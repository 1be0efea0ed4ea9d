import { defineCheck, fine, look, pending, stop } from './check';

const counted = (n: number, one: string) => `${n.toLocaleString('en-GB')} ${one}${n === 1 ? '' : 's'}`;

/** How the route fares over what is recorded: how many go, and how many of those can be sent. */
export const recordedFare = defineCheck({
  id: 'recorded',
  look({ rehearsal }) {
    if (!rehearsal) return [];
    if ('fault' in rehearsal)
      return stop(`Past submissions could not be rehearsed: ${rehearsal.fault}`, 'Reload the samples first.');
    const { summary, samples } = rehearsal;
    if (!summary) return pending('Rehearsing…');
    const unsent = summary.going - summary.sendable;
    if (samples === 0) return look('No past submission to try it on.');
    if (summary.going === 0) return look('No past submission passes the filter.');
    return [
      ...fine(
        `${summary.going.toLocaleString('en-GB')} of ${counted(samples, 'past submission')} ${summary.going === 1 ? 'passes' : 'pass'} the filter.`,
      ),
      ...(unsent > 0
        ? look(`${unsent.toLocaleString('en-GB')} of them can’t be sent as they are. Such submissions will be held.`)
        : fine('All of them can be sent.')),
    ];
  },
});
