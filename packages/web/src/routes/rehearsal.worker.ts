import { rehearse, summarise, type RehearsalSummary, type RouteParts, type Sample } from '@grammata/core/rehearse';

/** What the page asks: first the samples, then a rehearsal for every state of the draft. */
export type Question = { samples: Sample[] } | { route: RouteParts; number: number };
export interface Answer {
  number: number;
  summary: RehearsalSummary;
}

let samples: Sample[] = [];

self.onmessage = ({ data }: MessageEvent<Question>) => {
  if ('samples' in data) samples = data.samples;
  else self.postMessage({ number: data.number, summary: summarise(rehearse(data.route, samples)) } satisfies Answer);
};
