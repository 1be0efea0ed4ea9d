import { pino } from 'pino';
import { Timers } from '../timing';
import { Gathering } from './gathering';

const timers = new Timers(pino({ level: 'silent' }));

test('what happened is looked at once each; one that fails takes nothing from the others', async () => {
  jest.useFakeTimers();
  try {
    const looked: string[] = [];
    const gathering = new Gathering(timers, 'looking', 1500, id => {
      looked.push(id);
      if (id === 'b') throw new Error('no');
    });
    gathering.add(['a', 'b']);
    gathering.add(['b', 'c']);
    await jest.advanceTimersByTimeAsync(5000);
    expect(looked).toEqual(['a', 'b', 'c']);
    gathering.add(['b']);
    await jest.advanceTimersByTimeAsync(5000);
    expect(looked).toEqual(['a', 'b', 'c', 'b']);
  } finally {
    jest.useRealTimers();
  }
});
