import { ago, alike, bytes, count, counted, lasting, span, when, whenExactly, whenInFull } from './format';

test.each([
  [0, '0 bytes'],
  [1, '1 byte'],
  [1204, '1,204 bytes'],
  [12_400, '12 kB'],
  [10_000_000, '10 MB'],
  [3_140_000, '3.1 MB'],
])('%d bytes', (n, text) => expect(bytes(n)).toBe(text));
test.each([
  [0, '0 s'],
  [40_400, '40 s'],
  [60_000, '1 min'],
  [3_599_000, '59 min'],
  [3_600_000, '1 h'],
  [49 * 3_600_000, '2 days'],
  [-5, '0 s'],
])('%d ms last', (ms, text) => expect(lasting(ms)).toBe(text));
test.each([
  [0.001, '4 seconds'],
  [1 / 60, '60 seconds'],
  [0.5, '30 minutes'],
  [1, '60 minutes'],
  [24, '24 hours'],
  [72, '3 days'],
])('%d hours', (hours, text) => expect(span(hours)).toBe(text));
test('counts in words', () => {
  expect([counted(1, 'line'), counted(14, 'line'), counted(0, 'delivery', 'deliveries'), count(1204)]).toEqual([
    '1 line',
    '14 lines',
    '0 deliveries',
    '1,204',
  ]);
});
test('how long ago, and the date when it is longer', () => {
  const now = Date.parse('2026-11-04T12:00:00Z');
  expect(ago('2026-11-04T12:00:00Z', now)).toBe('just now');
  expect(ago('2026-11-04T11:59:57Z', now)).toBe('3 s ago');
  expect(ago('2026-11-02T12:00:00Z', now)).toMatch(/^2 Nov/);
});
test('a time of another year says which', () => {
  const now = new Date('2026-11-27T00:00:00');
  expect([when('2026-11-04T08:12:00', now), when('2025-11-04T08:12:00', now)]).toEqual([
    '4 Nov, 08:12',
    '4 Nov 2025, 08:12',
  ]);
});
test('an exact time says the second, the year and the zone', () => {
  const zone = /(UTC|GMT|[A-Z]{2,5}|GMT[+-]\d+)$/;
  for (const text of [whenExactly('2026-11-04T08:12:07Z'), whenInFull('2026-11-04T08:12:07Z')]) {
    expect(text).toMatch(/2026.*:12:07/);
    expect(text).toMatch(zone);
  }
});
test('what reads alike is said once, with how often', () => {
  const notes = ['a', 'b', 'a', 'a', 'c'].map((message, id) => ({ id, message }));
  const said = alike(notes, each => each.message);
  expect(said.map(([{ id, message }, times]) => [id, message, times])).toEqual([
    [0, 'a', 3],
    [1, 'b', 1],
    [4, 'c', 1],
  ]);
  expect(alike([], String)).toEqual([]);
});

test.each([
  ['de', '4. Nov., 08:12', '1.204'],
  ['en-US', 'Nov 4, 08:12 AM', '1,204'],
  // Digits suit the words around them.
  ['ar-EG', expect.stringMatching(/^[^٠-٩]*4[^٠-٩]*$/), expect.stringMatching(/1.?204/)],
])('dates and numbers are written as the person’s browser does: %s', async (language, date, thousand) => {
  const before = Object.getOwnPropertyDescriptor(globalThis, 'navigator');
  Object.defineProperty(globalThis, 'navigator', { value: { languages: [language] }, configurable: true });
  try {
    jest.resetModules();
    const format = await import('./format');
    const at = new Date(2026, 10, 4, 8, 12).toISOString();
    expect(format.when(at, new Date(2026, 11, 1))).toEqual(date);
    expect(format.count(1204)).toEqual(thousand);
    // Words stay English.
    expect(format.listed(['Register', 'Roster'])).toBe('Register and Roster');
  } finally {
    if (before) Object.defineProperty(globalThis, 'navigator', before);
    else Reflect.deleteProperty(globalThis, 'navigator');
  }
});
