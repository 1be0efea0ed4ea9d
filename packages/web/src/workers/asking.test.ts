import { openAsker, type Asker, type Replied } from './asking';

/** A worker that is played by hand. */
class Played {
  sent: unknown[] = [];
  isEnded = false;
  onmessage: Worker['onmessage'] = null;
  onerror: Worker['onerror'] = null;
  postMessage = (sent: unknown) => void this.sent.push(sent);
  terminate = () => void (this.isEnded = true);
  reply(data: unknown) {
    this.onmessage!.call(this as unknown as Worker, { data } as MessageEvent);
  }
  fail(message: string) {
    (this.onerror as (event: { message: string }) => void)({ message });
  }
}

let worker: Played;
let heard: Replied<string, number>[];
let asker: Asker<string, string>;
beforeEach(() => {
  worker = new Played();
  heard = [];
  asker = openAsker<string, string, number>(worker as unknown as Worker, each => heard.push(each));
});

test('while one is under way only the newest waits, and what is behind it is not heard', () => {
  for (const each of ['a', 'b', 'c']) asker.ask(each);
  expect(worker.sent).toEqual([{ asked: 'a' }]);
  worker.reply({ answer: 1 });
  expect(heard).toEqual([]);
  expect(worker.sent.slice(1)).toEqual([{ asked: 'c' }]);
  worker.reply({ answer: 3 });
  expect(heard).toEqual([{ asked: 'c', answer: 3 }]);
});

test('a fault is heard, and the next is asked all the same', () => {
  asker.ask('a');
  worker.reply({ fault: 'no such thing' });
  asker.ask('b');
  worker.fail('out of memory');
  asker.ask('c');
  worker.reply({ answer: 3 });
  expect(heard).toEqual([
    { asked: 'a', fault: 'no such thing' },
    { asked: 'b', fault: 'out of memory' },
    { asked: 'c', answer: 3 },
  ]);
});

test('a worker that fails before anything was asked answers nothing', () => {
  worker.fail('out of memory');
  expect(heard).toEqual([]);
});

test('what it is told goes out at once, before what is asked later', () => {
  asker.ask('a');
  asker.tell('more');
  asker.ask('b');
  worker.reply({ answer: 1 });
  expect(worker.sent).toEqual([{ asked: 'a' }, { told: 'more' }, { asked: 'b' }]);
});

test('it is ended with the page', () => {
  asker.close();
  expect(worker.isEnded).toBe(true);
});
