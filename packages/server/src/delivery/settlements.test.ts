import { pino } from 'pino';
import type { DueDeliveries, Settlement } from '../due';
import { LiveHub } from '../live';
import { StorageHealth } from '../storage';
import { Timers } from '../timing';
import { Settlements } from './settlements';

const log = pino({ level: 'silent' });
const full = () => Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' });
const of = (id: string) => ({ id }) as Settlement;

/** Outcomes over a store that does as it is told. */
function over(store: (batch: string[]) => void) {
  const batches: string[][] = [];
  const settle: DueDeliveries['settle'] = async (_, all) => {
    const batch = all.map(each => each.id);
    store(batch);
    batches.push(batch);
  };
  const timers = new Timers(log);
  const health = new StorageHealth(new LiveHub(), log);
  const settlements = new Settlements({ due: { settle } as DueDeliveries, health, timers }, 'me');
  return { settlements, batches, health, timers };
}

test('those of one turn are stored together', async () => {
  const { settlements, batches } = over(() => undefined);
  await Promise.all(['a', 'b', 'c'].map(id => settlements.settle(of(id))));
  await settlements.settle(of('d'));
  expect(batches).toEqual([['a', 'b', 'c'], ['d']]);
});

test('what one of them fails for is no matter to the others', async () => {
  const { settlements, batches } = over(batch => {
    if (batch.includes('b')) throw new Error('NOT NULL constraint failed');
  });
  const all = await Promise.allSettled(['a', 'b', 'c'].map(id => settlements.settle(of(id))));
  expect(all.map(each => each.status)).toEqual(['fulfilled', 'rejected', 'fulfilled']);
  expect(batches).toEqual([['a'], ['c']]);
});

test('while the disk is full they are kept, and stored when there is room', async () => {
  let isFull = true;
  const { settlements, batches, health, timers } = over(() => {
    if (isFull) throw full();
  });
  const pause = jest.spyOn(timers, 'pause').mockImplementation(async () => {
    expect(health.trouble?.message).toBe('The disk of the data folder is full.');
    isFull = false;
  });
  const [first, second] = [settlements.settle(of('a')), settlements.settle(of('b'))];
  await Promise.all([first, second]);
  expect(pause).toHaveBeenCalledTimes(1);
  expect([batches, health.trouble]).toEqual([[['a', 'b']], null]);
});

test('at the end what can’t be stored is let go of', async () => {
  const { settlements } = over(() => {
    throw full();
  });
  settlements.stop();
  await expect(settlements.settle(of('a'))).rejects.toThrow('full');
});
