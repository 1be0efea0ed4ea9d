import { defineCheck, fine, look, pending, stop } from './check';

const counted = (n: number, one: string) => `${n.toLocaleString('en-GB')} ${one}${n === 1 ? '' : 's'}`;

/** How the route fares over what is recorded: how many go, and how many of those can be sent. */
export const recordedFare = defineCheck({
  id: 'recorded',
  look({ rehearsal }) {
    if (!rehearsal) return [];
    if ('fault' in rehearsal)
      return stop(`What is recorded could not be rehearsed: ${rehearsal.fault}`, 'Have the samples read again first.');
    const { summary, samples } = rehearsal;
    if (!summary) return pending('Being rehearsed…');
    const unsent = summary.going - summary.sendable;
    if (samples === 0) return look('Nothing is recorded yet to try it on.');
    if (summary.going === 0) return look('The condition lets none of the recorded submissions through.');
    return [
      ...fine(`${summary.going.toLocaleString('en-GB')} of ${counted(samples, 'recorded submission')} would go.`),
      ...(unsent > 0
        ? look(
            `${unsent.toLocaleString('en-GB')} of them can’t be sent as they are. The like would be held for you to look at.`,
          )
        : fine('Each of them can be sent.')),
    ];
  },
});
