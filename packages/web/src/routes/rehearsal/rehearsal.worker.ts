import type { SamplePage } from '@grammata/contract';
import { RouteRehearser, type RouteParts, type RouteRehearsal } from '@grammata/core/rehearse';
import { unpack } from '@grammata/core/sample';

/** What the page asks: samples anew, samples more, and a rehearsal for every state of the draft. */
export type Question = { anew: true } | { page: SamplePage } | { route: RouteParts; number: number };
export type Answer = { number: number } & ({ summary: RouteRehearsal } | { fault: string });

let rehearser = new RouteRehearser();

self.onmessage = ({ data }: MessageEvent<Question>) => {
  if ('anew' in data) {
    rehearser = new RouteRehearser();
    return;
  }
  if ('page' in data) {
    const { page } = data;
    rehearser.add(
      page.rows.map(row => ({ id: row.sampleId, receivedAt: row.receivedAt, submission: unpack(page, row) })),
    );
    return;
  }
  try {
    const summary = rehearser.rehearse(data.route);
    const arrays = [summary, ...summary.calls.filter(each => each !== null)].flatMap(({ goes, sends }) => [
      goes,
      sends,
    ]);
    const states = summary.calls.flatMap(each => (each ? [each.states] : []));
    self.postMessage({ number: data.number, summary } satisfies Answer, {
      transfer: [...arrays, ...states].map(each => each.buffer),
    });
  } catch (error) {
    self.postMessage({ number: data.number, fault: (error as Error).message } satisfies Answer);
  }
};
