import type { SamplePage } from '@grammata/contract';
import { RouteRehearser, type RouteParts, type RouteRehearsal } from '@grammata/core/rehearse';
import { unpack } from '@grammata/core/sample';
import { answering } from '../../workers/asking';

/** What is kept: samples anew, and samples more. */
export type RehearsalInput = { anew: true } | { page: SamplePage };
/** A state of the draft, over the samples of one generation. */
export interface Asked {
  route: RouteParts;
  generation: number;
}

let rehearser = new RouteRehearser();

answering<RehearsalInput, Asked, RouteRehearsal>({
  told(told) {
    if ('anew' in told) {
      rehearser = new RouteRehearser();
      return;
    }
    const { page } = told;
    rehearser.add(
      page.rows.map(row => ({ id: row.sampleId, receivedAt: row.receivedAt, submission: unpack(page, row) })),
    );
  },
  asked: ({ route }) => rehearser.rehearse(route),
  held(summary) {
    const calls = summary.calls.filter(each => each !== null);
    const arrays = [summary, ...calls].flatMap(({ goes, sends }) => [goes, sends]);
    return [...arrays, ...summary.parts, ...calls.map(each => each.states)].map(each => each.buffer);
  },
});
