import { Rehearser, type RehearsalSummary, type RouteParts, type Sample } from '@grammata/core/rehearse';

/** What the page asks: first the samples, then a rehearsal for every state of the draft. */
export type Question = { samples: Sample[] } | { route: RouteParts; number: number };
export interface Answer {
  number: number;
  summary: RehearsalSummary;
}

let rehearser = new Rehearser([]);

self.onmessage = ({ data }: MessageEvent<Question>) => {
  if ('samples' in data) {
    rehearser = new Rehearser(data.samples);
    return;
  }
  const summary = rehearser.rehearse(data.route);
  const { goes, sends, states } = summary;
  self.postMessage({ number: data.number, summary } satisfies Answer, {
    transfer: [goes.buffer, sends.buffer, states.buffer],
  });
};
