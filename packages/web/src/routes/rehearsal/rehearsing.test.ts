import type { RouteParts, RouteRehearsal } from '@grammata/core/rehearse';
import type { SamplePage } from '@grammata/contract';
import type { Answer, Question } from './rehearsal.worker';
import { openWorker, type Rehearsed } from './rehearsing';

/** A worker that is played by hand. */
class Played {
  asked: Question[] = [];
  isEnded = false;
  onmessage: Worker['onmessage'] = null;
  onerror: Worker['onerror'] = null;
  postMessage = (question: Question) => void this.asked.push(question);
  terminate = () => void (this.isEnded = true);
  answer(answer: Answer) {
    this.onmessage!.call(this as unknown as Worker, { data: answer } as MessageEvent<Answer>);
  }
  fail(message: string) {
    (this.onerror as (event: { message: string }) => void)({ message });
  }
  rehearsals = () => this.asked.flatMap(each => ('route' in each ? [[nameOf(each.route), each.number]] : []));
}
const route = (timeZone: string) => ({ context: { timeZone } }) as RouteParts;
const nameOf = ({ context }: RouteParts) => context.timeZone;
const summary = {} as RouteRehearsal;
const page = (at: number) => ({ total: at }) as SamplePage;

let worker: Played;
let told: Rehearsed[];
let opened: ReturnType<typeof openWorker>;
beforeEach(() => {
  worker = new Played();
  told = [];
  opened = openWorker(worker as unknown as Worker, each => told.push(each));
});

test('while one is under way only the newest waits, and what is behind it is not shown', () => {
  for (const each of ['a', 'b', 'c']) opened.rehearse(route(each));
  expect(worker.rehearsals()).toEqual([['a', 1]]);
  worker.answer({ number: 1, summary });
  expect(told).toEqual([]);
  expect(worker.rehearsals().at(-1)![0]).toBe('c');
  worker.answer({ number: worker.rehearsals().at(-1)![1] as number, summary });
  expect(told).toEqual([{ generation: -1, number: expect.any(Number), summary }]);
});

test('what fails is told, and the next edit is rehearsed all the same', () => {
  opened.rehearse(route('a'));
  worker.answer({ number: 1, fault: 'no such thing' });
  expect(told).toMatchObject([{ fault: 'no such thing' }]);
  opened.rehearse(route('b'));
  expect(worker.rehearsals()).toHaveLength(2);
  worker.fail('out of memory');
  expect(told.at(-1)).toMatchObject({ fault: 'out of memory' });
  opened.rehearse(route('c'));
  expect(worker.rehearsals()).toHaveLength(3);
});

test('pages are handed over once, and all anew for another generation', () => {
  opened.hold({ generation: 1, pages: [page(0)] });
  opened.hold({ generation: 1, pages: [page(0), page(1)] });
  opened.hold({ generation: 1, pages: [page(0), page(1)] });
  expect(worker.asked).toEqual([{ anew: true }, { page: page(0) }, { page: page(1) }]);
  worker.asked = [];
  opened.hold({ generation: 2, pages: [page(2)] });
  expect(worker.asked).toEqual([{ anew: true }, { page: page(2) }]);
  opened.rehearse(route('a'));
  worker.answer({ number: 1, summary });
  expect(told.at(-1)).toMatchObject({ generation: 2 });
});

test('it is ended with the page', () => {
  opened.close();
  expect(worker.isEnded).toBe(true);
});
