import { pino } from 'pino';
import { nextTime, Timers } from '.';

const heard: string[] = [];
const log = pino({ level: 'error' }, { write: (line: string) => void heard.push(JSON.parse(line).work) });
const timers = new Timers(log);

beforeEach(() => void (heard.length = 0));

const failing = {
  throws: () => {
    throw new Error('no');
  },
  rejects: () => Promise.reject(new Error('no')),
  'rejects later': async () => {
    await new Promise(resolve => setImmediate(resolve));
    throw new Error('no');
  },
};

test.each(Object.entries(failing))('work that %s is logged, and nothing else happens', async (name, work) => {
  await expect(timers.run(name, work)).resolves.toBeUndefined();
  expect(heard).toEqual([name]);
});

test('a turn lets others have theirs, a pause takes its time', async () => {
  const order: string[] = [];
  setImmediate(() => order.push('another'));
  await timers.turn();
  order.push('turn');
  const started = performance.now();
  await timers.pause(30);
  expect([order, performance.now() - started > 25]).toEqual([['another', 'turn'], true]);
});

test('what is set to happen soon, later, again and again may fail each time', async () => {
  jest.useFakeTimers();
  let times = 0;
  const work = () => {
    times += 1;
    throw new Error('no');
  };
  timers.soon('soon', work);
  timers.later('later', 1000, work);
  const again = timers.every('again', 1000, work);
  await jest.advanceTimersByTimeAsync(3000);
  again.stop();
  await jest.advanceTimersByTimeAsync(3000);
  jest.useRealTimers();
  expect(times).toBe(5);
  expect(heard.sort()).toEqual(['again', 'again', 'again', 'later', 'soon']);
});

test('what was called off does not happen', async () => {
  jest.useFakeTimers();
  const work = jest.fn();
  timers.later('later', 10, work).stop();
  timers.every('again', 10, work).stop();
  timers.soon('soon', work).stop();
  await jest.advanceTimersByTimeAsync(100);
  jest.useRealTimers();
  expect(work).not.toHaveBeenCalled();
});

test.each(['61 * * * *', 'soon', ''])('%j is no schedule', every => {
  expect(nextTime(every)).toEqual({ fault: expect.any(String) });
  expect(() => timers.schedule('x', every, () => undefined)).toThrow();
});

test('a schedule says when it falls due', () => {
  const schedule = timers.schedule('x', '0 5 * * *', () => undefined);
  expect(schedule.nextRun()?.toISOString()).toMatch(/T05:00:00\.000Z$/);
  schedule.stop();
});
