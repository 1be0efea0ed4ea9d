import type { Json } from '../../submission';
import { formChanges, readBoth, readMessages, type DriftRequest, type FormChange } from '..';

/** Twelve people's answers, each a little otherwise. */
const sites = ['AB-07', 'AB-02', 'AB-09'];
const signs = ['Foam', 'Litter', 'Oil sheen'];
const names = ['Ada Reed', 'Wen Brook', 'Ivo Marsh', 'Zoë Ford'];
interface Person {
  site: string;
  weather: string;
  signs: string[];
  ph: number;
  day: string;
  who: string;
  note: string | null;
}
const person = (at: number): Person => ({
  site: sites[at % 3]!,
  weather: ['Dry', 'Wet'][at % 2]!,
  signs: signs.slice(at % 3, (at % 3) + 1 + (at % 2)),
  ph: 6 + (at % 5) / 2,
  day: `2026-10-${String(10 + at)}`,
  who: `${names[at % 4]} ${at}`,
  note: at % 4 === 0 ? `seen at step ${at} of the way` : null,
});
const questions: [key: keyof Person, label: string][] = [
  ['site', 'Which site?'],
  ['weather', 'How was the weather?'],
  ['signs', 'What signs did you see?'],
  ['ph', 'pH from the strip'],
  ['day', 'On which day?'],
  ['who', 'Your name'],
  ['note', 'Anything else?'],
];

interface Asked {
  key: string;
  label: string;
  value: Json;
}
type Edit = (asked: Asked[], at: number) => Asked[];

const asLabelled = (asked: Asked[], at: number): Json => ({
  submission_id: `s-${100 + at}`,
  form: { id: 'f1', name: 'Sampling' },
  answers: asked.map(({ key, label, value }) => ({ id: key, label, value })),
});
const asFlat = (asked: Asked[], at: number): Json => ({
  submission_id: `s-${100 + at}`,
  ...Object.fromEntries(asked.flatMap(({ key, value }) => (value === null ? [] : [[key, value]]))),
});

const messages = (from: number, count: number, edit: Edit, build: (asked: Asked[], at: number) => Json) =>
  Array.from({ length: count }, (_, index) => {
    const at = from + index;
    const one = person(at);
    const asked = questions.map(([key, label]) => ({ key: key as string, label, value: one[key] as Json }));
    return { body: build(edit(asked, at), at) };
  });

const same: Edit = asked => asked;
function told(edit: Edit, build = asLabelled, after = build, counts: [number, number] = [12, 8]): FormChange[] {
  const ways: Parameters<typeof readMessages>[1] = [];
  const before = readMessages(messages(0, counts[0], same, build), ways);
  return formChanges(before, readMessages(messages(12, counts[1], edit, after), ways));
}
const on =
  (key: string, change: (asked: Asked, at: number) => Partial<Asked>): Edit =>
  (asked, at) =>
    asked.map(each => (each.key === key ? { ...each, ...change(each, at) } : each));

test.each<[string, Edit, FormChange[]]>([
  ['nothing', same, []],
  ['other answers in another order', asked => asked.toReversed(), []],
  [
    'a question more',
    asked => [...asked, { key: 'depth', label: 'How deep?', value: 3 }],
    [{ change: 'added', question: 'depth' }],
  ],
  ['a question less', asked => asked.filter(each => each.key !== 'ph'), [{ change: 'gone', question: 'ph' }]],
  [
    'another wording',
    on('who', () => ({ label: 'Who took the sample?' })),
    [{ change: 'reworded', question: 'who', was: 'Your name', now: 'Who took the sample?' }],
  ],
  ['a mark of what is required is no wording', on('who', ({ label }) => ({ label: `${label} *` })), []],
  [
    'another key for the same question',
    on('ph', () => ({ key: 'q_77' })),
    [{ change: 'replaced', question: 'ph', was: 'ph', now: 'q_77' }],
  ],
  [
    'another kind',
    on('ph', (_, at) => ({ value: `rather ${['sour', 'bitter', 'clear'][at % 3]}` })),
    [{ change: 'kind', question: 'ph', was: 'number', now: 'text' }],
  ],
  [
    'another notation',
    on('day', ({ value }) => ({ value: (value as string).split('-').reverse().join('.') })),
    [{ change: 'notation', question: 'day', was: '2026-10-10', now: '22.10.2026' }],
  ],
  [
    'a number in a text',
    on('ph', ({ value }) => ({ value: String(value) })),
    [{ change: 'notation', question: 'ph', was: '6', now: '7' }],
  ],
  ...['.', '/', '-'].map((mark): [string, Edit, FormChange[]] => [
    `a date with the day first and ${mark}`,
    on('day', ({ value }) => ({ value: (value as string).split('-').reverse().join(mark) })),
    [{ change: 'notation', question: 'day', was: '2026-10-10', now: `22${mark}10${mark}2026` }],
  ]),
  [
    'an option that got another name',
    on('weather', ({ value }) => ({ value: value === 'Wet' ? 'Wet or misty' : value })),
    [{ change: 'option-renamed', question: 'weather', was: 'Wet', now: 'Wet or misty' }],
  ],
  [
    'an option more',
    on('signs', ({ value }, at) => ({ value: at % 2 ? ['Kingfisher'] : value })),
    [{ change: 'option-added', question: 'signs', now: 'Kingfisher' }],
  ],
  [
    'one answer that becomes several',
    on('site', ({ value }) => ({ value: [value] })),
    [{ change: 'single-to-list', question: 'site' }],
  ],
  [
    'several that become one',
    on('signs', ({ value }) => ({ value: (value as string[])[0]! })),
    [{ change: 'list-to-single', question: 'signs' }],
  ],
])('%s', (_, edit, expected) => expect(told(edit)).toEqual(expected));

test('the same questions built otherwise are one change, and not one for each', () => {
  const changes = told(same, asLabelled, (asked, at) => ({
    event: 'sent',
    data: {
      submission_id: `s-${100 + at}`,
      fields: asked.map(({ key, label, value }) => ({ key, title: label, answer: value })),
    },
  }));
  expect(changes).toEqual([{ change: 'envelope', question: null }]);
});

describe('one of two words that is true or false now, and the other way round, is one notation', () => {
  const in_ = (yes: string, no: string) => on('weather', (_, at) => ({ value: at % 2 ? yes : no }));
  const flag = on('weather', (_, at) => ({ value: at % 2 === 0 }));
  const between = (was: Edit, is: Edit) => {
    const ways: Parameters<typeof readMessages>[1] = [];
    const before = readMessages(messages(0, 12, was, asLabelled), ways);
    return formChanges(before, readMessages(messages(12, 8, is, asLabelled), ways));
  };
  test.each([
    ['Yes', 'No'],
    ['Ja', 'Nein'],
    ['はい', 'いいえ'],
    ['Kyllä', 'Ei'],
    ['Wet', 'Dry'],
  ])('%s and %s', (yes, no) => {
    const words = [yes, no].sort();
    const change = { change: 'notation', question: 'weather' };
    expect(between(in_(yes, no), flag)).toEqual([{ ...change, was: words, now: ['true', 'false'] }]);
    expect(between(flag, in_(yes, no))).toEqual([{ ...change, was: ['true', 'false'], now: words }]);
  });
  test('three words are none', () =>
    expect(
      between(
        on('weather', (_, at) => ({ value: ['Dry', 'Wet', 'Fog'][at % 3]! })),
        flag,
      ),
    ).not.toContainEqual(expect.objectContaining({ change: 'notation' })));
});

describe('options that the messages state themselves', () => {
  interface Option {
    id?: string;
    label: string;
  }
  const options = (...labels: string[]): Option[] => labels.map((label, at) => ({ id: `o${at}`, label }));
  const stating =
    (optionsAt: (at: number) => Option[] | string[]) =>
    (asked: Asked[], at: number): Json => ({
      submission_id: `s-${100 + at}`,
      form: { id: 'f1', name: 'Sampling' },
      answers: asked.map(({ key, label, value }) => ({
        id: key,
        label,
        ...(key === 'weather' && { options: optionsAt(at) as unknown as Json }),
        value,
      })),
    });
  const usual = options('Dry', 'Wet', 'Fog');
  /** One message after the change is enough. */
  const after = (is: (at: number) => Option[] | string[], was: (at: number) => Option[] | string[] = () => usual) =>
    told(same, stating(was), stating(is), [6, 1]);
  const change = (what: FormChange['change'], more: object) => ({ change: what, question: 'weather', ...more });

  test.each<[string, Option[], object[]]>([
    ['nothing', usual, []],
    ['another order', usual.toReversed(), []],
    ['one more', [...usual, { id: 'o9', label: 'Snow' }], [change('option-added', { now: 'Snow' })]],
    ['one less that nobody chose', usual.slice(0, 2), [change('option-gone', { was: 'Fog' })]],
    [
      'one that is called something else altogether, by its identifier',
      [...usual.slice(0, 2), { id: 'o2', label: 'Hard to say' }],
      [change('option-renamed', { was: 'Fog', now: 'Hard to say' })],
    ],
    [
      'one gone and one added, by their identifiers',
      [...usual.slice(0, 2), { id: 'o7', label: 'Storm and hail' }],
      [change('option-gone', { was: 'Fog' }), change('option-added', { now: 'Storm and hail' })],
    ],
    ['identifiers that are others', options('Wet', 'Dry', 'Fog'), []],
  ])('%s', (_, is, expected) => expect(after(() => is)).toEqual(expected));

  test('plain texts are held against each other as they are', () =>
    expect(
      after(
        () => ['Dry', 'Wet', 'Snow', 'Fog'],
        () => ['Dry', 'Wet', 'Fog'],
      ),
    ).toEqual([change('option-added', { now: 'Snow' })]));
  test('what depends on other answers tells nothing', () => {
    const by = (at: number) => (at % 2 ? usual : options('Dry', 'Wet', 'Snow'));
    expect(after(by, by)).toEqual([]);
    expect(told(same, stating(by), stating(by), [12, 8])).toEqual([]);
  });
  test('what was changed before is told against what was stated last', () => {
    const snow = [...usual, { id: 'o9', label: 'Snow' }];
    expect(
      after(
        () => usual,
        at => (at < 3 ? usual.slice(0, 2) : snow),
      ),
    ).toEqual([change('option-gone', { was: 'Snow' })]);
  });
});

describe('temptations', () => {
  test('what is optional and was not answered is not gone', () =>
    expect(told(asked => asked.filter(each => each.key !== 'note'), asFlat, asFlat, [12, 4])).toEqual([]));
  test('where blanks are stated, one message without the question is enough', () =>
    expect(told(asked => asked.filter(each => each.key !== 'note'), asLabelled, asLabelled, [12, 1])).toEqual([
      { change: 'gone', question: 'note' },
    ]));
  test('an option that is rare is neither gone nor new', () => {
    const rare: Edit = on('weather', ({ value }, at) => ({ value: at === 13 ? 'Fog' : value }));
    expect(told(rare)).toEqual([]);
  });
  test('dates whose order nobody knows are no other notation', () => {
    const slashes = (first: number, second: number): Edit =>
      on('day', (_, at) => ({ value: `${String((at % first) + 1)}/${String((at % second) + 1)}/2026` }));
    const ways: Parameters<typeof readMessages>[1] = [];
    const before = readMessages(messages(0, 12, slashes(12, 12), asLabelled), ways);
    expect(formChanges(before, readMessages(messages(12, 8, slashes(28, 12), asLabelled), ways))).toEqual([]);
  });
  test('nothing before or after is no change', () => {
    expect(formChanges([], readMessages(messages(0, 3, same, asLabelled)))).toEqual([]);
    expect(formChanges(readMessages(messages(0, 3, same, asLabelled)), [])).toEqual([]);
  });
  test('whatever is sent is read without an error', () => {
    const odd = readMessages([
      { body: 'x' },
      { body: null },
      { body: [] },
      { body: '{"a":', type: 'application/json' },
    ]);
    expect(formChanges(odd, readMessages(messages(0, 4, same, asLabelled)))).toEqual(expect.any(Array));
  });
});

test('a question with a box to tick that is worded otherwise is the same one, also where it is read as a word now', () => {
  const sent = (who: string, consent: string) => (at: number) => ({
    body: {
      submission_id: `s-${at}`,
      [who]: names[at % 4]!,
      email: `p${at}@example.org`,
      site: sites[at % 3]!,
      [consent]: 'yes',
    },
  });
  const before = Array.from({ length: 12 }, (_, at) => sent('full_name', 'i_agree_that_you_keep_my_details')(at));
  const after = Array.from({ length: 5 }, (_, at) => sent('your_full_name', 'you_may_keep_my_details')(at + 12));
  const ways: Parameters<typeof readMessages>[1] = [];
  expect(formChanges(readMessages(before, ways), readMessages(after, ways))).toEqual([
    { change: 'replaced', question: 'full_name', was: 'full_name', now: 'your_full_name' },
    {
      change: 'replaced',
      question: 'i_agree_that_you_keep_my_details',
      was: 'i_agree_that_you_keep_my_details',
      now: 'you_may_keep_my_details',
    },
  ]);
});

describe('messages of which nobody is sure how they are built', () => {
  /** Labelled answers in XML under names that say nothing; one is worded otherwise after the change. */
  const item = (key: string, label: string, ...values: string[]) =>
    `<item><bix>${key}</bix><quon>${label}</quon>${values.map(each => `<sert>${each}</sert>`).join('')}</item>`;
  const sent = (at: number, who: string): DriftRequest => ({
    type: 'application/xml',
    body: `<?xml version="1.0"?><root><ofal><irt>f-49</irt><lup>Spacer nad rzeką</lup></ofal><all><entry><zek>r-${at}</zek><unf>2026-10-01T08:28:00Z</unf><items>${[
      item('kto', who, names[at % 4]!),
      item('poczta', 'Adres e-mail', `p${at}@example.org`),
      item('pogoda', 'Jaka była pogoda?', ['Sucho', 'Wiatr'][at % 2]!),
      item('co', 'Co widziałeś?', ...signs.slice(0, 1 + (at % 3))),
    ].join('')}</items></entry></all></root>`,
  });
  const all = (from: number, count: number, who: string) =>
    Array.from({ length: count }, (_, at) => sent(from + at, who));
  const waysIn = (messages: ReturnType<typeof readMessages>) => new Set(messages.map(each => JSON.stringify(each.way)));

  test('are read in one way on both sides, so that only what changed is told', () => {
    const [before, after] = [all(0, 28, 'Imię i nazwisko'), all(28, 14, 'Please: Imię i nazwisko')];
    const ways: Parameters<typeof readMessages>[1] = [];
    const apart = [...waysIn(readMessages(before, ways)), ...waysIn(readMessages(after, ways))];
    expect(new Set(apart).size).toBe(2);
    const [was, now] = readBoth(before, after);
    expect(waysIn([...was, ...now]).size).toBe(1);
    expect(formChanges(was, now)).toEqual([
      { change: 'reworded', question: 'kto', was: 'Imię i nazwisko', now: 'Please: Imię i nazwisko' },
    ]);
  });
  test('are read once where all are read in one way', () => {
    const [was, now] = readBoth(messages(0, 4, same, asLabelled), messages(4, 4, same, asLabelled));
    expect(waysIn([...was, ...now]).size).toBe(1);
    expect(formChanges(was, now)).toEqual([]);
  });
  test('with identifiers for keys: no question stands in for one that was in a single message', () => {
    const keyed = (from: number) =>
      readMessages(
        Array.from({ length: 9 }, (_, at) => ({ body: { site: sites[at % 3]!, [`r-${from + at}`]: names[at % 4]! } })),
      );
    expect(formChanges(keyed(1000), keyed(2000)).filter(each => each.change === 'replaced')).toEqual([]);
  });
});

test('of a question that takes one answer now it is not told that each option is chosen less', () => {
  const several = on('signs', (_, at) => ({ value: at % 2 === 0 ? [...signs] : ['Foam', 'Litter'] }));
  const before = readMessages(messages(0, 24, several, asLabelled));
  const one = on('signs', () => ({ value: 'Foam' }));
  expect(formChanges(before, readMessages(messages(24, 14, one, asLabelled)))).toEqual([
    { change: 'list-to-single', question: 'signs' },
  ]);
});
