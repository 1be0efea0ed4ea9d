import { usualPace, type Pace } from '@grammata/core/perform';
import type { OutwardFault } from '../../outward';
import { Breakers, keepsPace, layered, renewsToken, type Layer, type Outgoing, type Result } from '.';

const answer = (status: number): Result => ({
  status,
  headers: {},
  body: '',
  shown: '',
  bytes: Buffer.alloc(0),
  cut: false,
  milliseconds: 1,
  credentials: { headers: [], query: [] },
});
const fault = (code: OutwardFault['code']): Result => ({ code, message: `It is ${code}.`, milliseconds: 1 });
const side = { auth: { kind: 'bearer' as const }, secret: null };
const to = (id: string, carry: Outgoing['carry'], pace: Partial<Pace> = {}): Outgoing => ({
  target: { id, name: 'Register', side, pace: { ...usualPace, ...pace } },
  carry,
});

afterEach(() => jest.restoreAllMocks());

test('the first layer is the outermost', async () => {
  const heard: string[] = [];
  const layer =
    (name: string): Layer =>
    next =>
    async outgoing => {
      heard.push(`${name} in`);
      const result = await next(outgoing);
      heard.push(`${name} out`);
      return result;
    };
  const send = layered(layer('a'), layer('b'));
  await send(to('t', async () => (heard.push('carried'), answer(200))));
  expect(heard).toEqual(['a in', 'b in', 'carried', 'b out', 'a out']);
});

describe('a token that is refused (RFC 9110 §15.5.2)', () => {
  test.each([
    ['had one: once more', true, [401, 200], 200, 2],
    ['had none: no more', false, [401, 200], 401, 1],
    ['is refused again: no third time', true, [401, 401, 200], 401, 2],
    ['may not: once more', true, [403, 200], 200, 2],
    ['is not refused', true, [422], 422, 1],
  ])('%s', async (_, hadOne, statuses, end, times) => {
    const left = [...statuses];
    const carry = jest.fn(async () => answer(left.shift()!));
    const send = layered(renewsToken({ forget: () => hadOne }));
    expect(await send(to('t', carry))).toMatchObject({ status: end });
    expect(carry).toHaveBeenCalledTimes(times);
  });
});

describe('the pace of a target', () => {
  /** Requests that end when they are told to. */
  function held() {
    const ends: (() => void)[] = [];
    let [running, most] = [0, 0];
    const carry = () => {
      running += 1;
      most = Math.max(most, running);
      return new Promise<Result>(resolve =>
        ends.push(() => {
          running -= 1;
          resolve(answer(200));
        }),
      );
    };
    return { carry, ends, most: () => most };
  }

  test('so many at once, each target for itself', async () => {
    const send = layered(keepsPace());
    const [one, other] = [held(), held()];
    const sent = Array.from({ length: 7 }, () => send(to('one', one.carry, { concurrency: 3 })));
    const elsewhere = send(to('other', other.carry, { concurrency: 1 }));
    await Promise.resolve();
    expect([one.ends.length, other.ends.length]).toEqual([3, 1]);
    for (let ended = 0; ended < 7; ended++) {
      one.ends[ended]!();
      await sent[ended];
    }
    other.ends[0]!();
    await elsewhere;
    expect(one.most()).toBe(3);
  });

  test('so many a second', async () => {
    jest.useFakeTimers();
    try {
      const send = layered(keepsPace());
      const begun: number[] = [];
      const carry = async () => (begun.push(Date.now()), answer(200));
      const from = Date.now();
      const sent = Promise.all(Array.from({ length: 6 }, () => send(to('t', carry, { perSecond: 2 }))));
      await jest.advanceTimersByTimeAsync(5000);
      await sent;
      for (let at = 0; at < 6; at++)
        expect(
          begun.filter(time => time - from >= at * 1000 && time - from < (at + 1) * 1000).length,
        ).toBeLessThanOrEqual(2);
      expect(begun.at(-1)! - from).toBeGreaterThanOrEqual(2000);
    } finally {
      jest.useRealTimers();
    }
  });
});

describe('a target that fails is parked, probed, and asked again', () => {
  let time = Date.parse('2026-11-04T08:00:00Z');
  const clock = () => jest.spyOn(Date, 'now').mockImplementation(() => time);
  const failing = async (send: ReturnType<typeof layered>, times: number, result = answer(503)) => {
    for (let at = 0; at < times; at++) await send(to('t', async () => result));
  };

  test.each<[string, Result, boolean]>([
    ['no answer', fault('refused'), true],
    ['too late an answer', fault('timeout'), true],
    ['trouble of its own (RFC 9110 §15.6)', answer(500), true],
    ['too many requests (RFC 6585 §4)', answer(429), true],
    ['a refusal', answer(422), false],
    ['a file of the sender’s that can’t be had', fault('file'), false],
    ['a success', answer(201), false],
  ])('five in a row of %s', async (_, result, parks) => {
    const breakers = new Breakers(() => undefined);
    await failing(layered(breakers.layer), 5, result);
    expect(breakers.parked('t') !== null).toBe(parks);
  });

  test('what is turned away is not made; one request probes; that it goes well opens the way', async () => {
    clock();
    const changed = jest.fn();
    const breakers = new Breakers(changed);
    const send = layered(breakers.layer);
    await failing(send, 4);
    expect([breakers.parked('t'), breakers.room('t')]).toEqual([null, Infinity]);
    await failing(send, 1);
    const { until, reason } = breakers.parked('t')!;
    expect([until - time, reason, breakers.room('t'), breakers.nextProbe()]).toEqual([15_000, 'Status 503.', 0, until]);
    const carry = jest.fn(async () => answer(201));
    expect(await send(to('t', carry))).toMatchObject({ code: 'parked', until });
    expect(await send(to('another', carry))).toMatchObject({ status: 201 });
    expect(carry).toHaveBeenCalledTimes(1);
    time = until;
    expect(breakers.room('t')).toBe(1);
    let end: (result: Result) => void = () => undefined;
    const probe = send(to('t', () => new Promise(resolve => (end = resolve))));
    expect(breakers.room('t')).toBe(0);
    expect(await send(to('t', carry))).toMatchObject({ code: 'parked' });
    end(answer(201));
    await probe;
    expect([breakers.parked('t'), breakers.room('t'), breakers.nextProbe()]).toEqual([null, Infinity, null]);
    expect(changed).toHaveBeenCalledTimes(2);
  });

  test('a probe that fails parks it for twice as long, up to five minutes; since when stays', async () => {
    clock();
    const breakers = new Breakers(() => undefined);
    const send = layered(breakers.layer);
    await failing(send, 5);
    const { since } = breakers.parked('t')!;
    const spans: number[] = [];
    for (let probe = 0; probe < 7; probe++) {
      spans.push((breakers.parked('t')!.until - time) / 1000);
      time = breakers.parked('t')!.until;
      await failing(send, 1);
    }
    expect(spans).toEqual([15, 30, 60, 120, 240, 300, 300]);
    expect(breakers.parked('t')!.since).toBe(since);
  });

  test('those under way when it was parked say nothing new', async () => {
    clock();
    const breakers = new Breakers(() => undefined);
    const send = layered(breakers.layer);
    const ends: ((result: Result) => void)[] = [];
    const sent = Array.from({ length: 12 }, () => send(to('t', () => new Promise(resolve => ends.push(resolve)))));
    ends.forEach(end => end(answer(503)));
    await Promise.all(sent);
    expect(breakers.parked('t')!.until - time).toBe(15_000);
  });

  test('a person has it probed at once; where it is never to be parked, it is not', async () => {
    clock();
    const breakers = new Breakers(() => undefined);
    const send = layered(breakers.layer);
    await failing(send, 5);
    breakers.probe('t');
    expect(breakers.room('t')).toBe(1);
    for (let at = 0; at < 20; at++) await send(to('u', async () => answer(503), { parkAfter: 0 }));
    expect(breakers.parked('u')).toBeNull();
  });
});

describe('what a result says of a target that is parked', () => {
  test.each<[string, Result, Partial<Outgoing>, 'asked' | 'parked']>([
    ['it went well', answer(201), {}, 'asked'],
    ['it refused the request', answer(422), {}, 'asked'],
    ['it failed', answer(500), {}, 'parked'],
    ['the token could not be had', fault('token'), {}, 'parked'],
    ['nobody gave consent', fault('consent'), {}, 'parked'],
    ['a file could not be had', fault('file'), {}, 'parked'],
    ['the address is not its own', fault('address'), {}, 'parked'],
    ['a key may not read what it wrote', answer(401), { readsBack: true }, 'parked'],
  ])('%s: it is %s', async (_, result, more, expected) => {
    const breakers = new Breakers(() => undefined);
    const send = layered(breakers.layer);
    await send(to('t', async () => answer(401)));
    expect(breakers.parked('t')!.reason).toBe('Credentials rejected (401).');
    breakers.probe('t');
    await send({ ...to('t', async () => result), ...more });
    expect(breakers.parked('t') === null ? 'asked' : 'parked').toBe(expected);
  });

  test('what never reached it does not make an end of failures in a row, nor one of them', async () => {
    const breakers = new Breakers(() => undefined);
    const send = layered(breakers.layer);
    for (const each of [answer(503), answer(503), fault('file'), answer(503), fault('consent'), answer(503)])
      await send(to('t', async () => each));
    expect(breakers.parked('t')).toBeNull();
    await send(to('t', async () => answer(503)));
    expect(breakers.parked('t')).not.toBeNull();
  });
});

describe('a parked target', () => {
  const parked = async (breakers: Breakers) => {
    const send = layered(breakers.layer);
    for (let at = 0; at < 5; at++) await send(to('t', async () => answer(503)));
    expect(breakers.parked('t')).not.toBeNull();
    return send;
  };

  test('is asked as before once somebody has changed it', async () => {
    const breakers = new Breakers(() => undefined);
    await parked(breakers);
    breakers.forget('t');
    expect([breakers.parked('t'), breakers.room('t')]).toEqual([null, Infinity]);
  });

  test('is probed again where a probe broke inside', async () => {
    const breakers = new Breakers(() => undefined);
    const send = await parked(breakers);
    breakers.probe('t');
    const broken = send(to('t', () => Promise.reject(new Error('the disk can’t be read'))));
    await expect(broken).rejects.toThrow('the disk');
    expect(breakers.room('t')).toBe(1);
  });
});
