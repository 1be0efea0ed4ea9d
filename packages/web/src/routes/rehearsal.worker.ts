import { RouteRehearser, type RouteParts, type RouteRehearsal, type Sample } from '@grammata/core/rehearse';

/** What the page asks: first the samples, then a rehearsal for every state of the draft. */
export type Question = { samples: Sample[] } | { route: RouteParts; number: number };
export interface Answer {
  number: number;
  summary: RouteRehearsal;
}

let rehearser = new RouteRehearser([]);

self.onmessage = ({ data }: MessageEvent<Question>) => {
  if ('samples' in data) {
    rehearser = new RouteRehearser(data.samples);
    return;
  }
  const summary = rehearser.rehearse(data.route);
  const arrays = [summary, ...summary.calls.filter(each => each !== null)].flatMap(({ goes, sends }) => [goes, sends]);
  const states = summary.calls.flatMap(each => (each ? [each.states] : []));
  self.postMessage({ number: data.number, summary } satisfies Answer, {
    transfer: [...arrays, ...states].map(each => each.buffer),
  });
};
