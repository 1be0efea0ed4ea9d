import type { LiveEvent } from '@grammata/contract';
import { LiveHub } from '../live';
import { Workshop } from '.';

let told: LiveEvent[];
let workshop: Workshop;
let time: number;

beforeEach(() => {
  time = Date.parse('2026-11-04T08:00:00Z');
  jest.spyOn(Date, 'now').mockImplementation(() => time);
  told = [];
  const live = new LiveHub();
  live.subscribe(event => told.push(event));
  workshop = new Workshop(live);
});
afterEach(() => jest.restoreAllMocks());

const start = (more: object = {}) => workshop.start({ kind: 'upload', title: 'Reading a file', ...more }, 10);

test('how far it is, and what came of it', () => {
  const work = start({ intakeId: 'i' });
  work.at(4, 20);
  expect(workshop.list()).toMatchObject([
    { state: 'running', done: 4, total: 20, intakeId: 'i', routeId: null, summary: null },
  ]);
  work.finish('All was read.');
  expect(workshop.list()).toMatchObject([{ state: 'done', summary: 'All was read.' }]);
  work.at(5);
  expect(workshop.stop(work.id)).toBe(false);
});

test('whom it is about', () => {
  start({ intakeId: 'i' });
  start({ routeId: 'r', kind: 'send' });
  start();
  const kinds = (of: object) => workshop.list(of).map(each => [each.intakeId, each.routeId]);
  expect(kinds({ intakeId: 'i' })).toEqual([['i', null]]);
  expect(kinds({ routeId: 'r' })).toEqual([[null, 'r']]);
  expect(kinds({}).length).toBe(3);
  expect(kinds({ routeId: 'another' })).toEqual([]);
});

test('somebody stops it; whoever does it sees that, and it ends as stopped', () => {
  const work = start();
  expect([work.isStopped, workshop.stop('another')]).toEqual([false, false]);
  expect(workshop.stop(work.id)).toBe(true);
  expect([work.isStopped, workshop.list()[0]!.state]).toEqual([true, 'running']);
  work.finish('4 of 10 were read.');
  expect(workshop.list()).toMatchObject([{ state: 'stopped', summary: '4 of 10 were read.' }]);
});

test('what went wrong is counted, and the first of it kept', () => {
  const work = start();
  for (let line = 0; line < 250; line++) work.report(`line ${line}`);
  work.fail('It broke.');
  const [view] = workshop.list();
  expect([view!.state, view!.reported, view!.report.length, view!.report[0]]).toEqual(['failed', 250, 200, 'line 0']);
});

test('progress is not told more often than people can see; the end always is', () => {
  const work = start();
  for (let done = 0; done < 1000; done++) {
    time += 1;
    work.at(done);
  }
  work.finish('Done.');
  const events = told.filter(each => each.type === 'work');
  expect(events.length).toBeLessThanOrEqual(8);
  expect(events.at(-1)).toMatchObject({ ended: true });
});

test('what is over is forgotten by and by, what runs is not', () => {
  const running = start();
  for (let n = 0; n < 60; n++) start().finish('Done.');
  start();
  const list = workshop.list();
  expect(list.length).toBeLessThanOrEqual(23);
  expect(list.some(each => each.id === running.id)).toBe(true);
  expect(list.map(each => each.state).filter(each => each === 'running')).toHaveLength(2);
});
