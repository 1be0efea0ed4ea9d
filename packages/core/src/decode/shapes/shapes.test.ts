import fc from 'fast-check';
import type { Json, JsonObject } from '../../submission';
import { decode, KnownShapes } from '..';

const bytes = (document: Json) => new TextEncoder().encode(JSON.stringify(document));
const read = (document: Json, shapes?: KnownShapes) => decode(bytes(document), 'application/json', '', {}, {}, shapes);
const whole = (document: Json) => read(document).submissions;
const learned = (...documents: Json[]) => {
  const shapes = new KnownShapes();
  for (const document of documents) read(document, shapes);
  return shapes;
};
const byShape = (shapes: KnownShapes, document: Json) => shapes.read('json', document)?.submission ?? null;

const listed = (id: string, answers: Json[], more: JsonObject = {}): JsonObject => ({
  form: { key: 'moorings', title: 'Mooring request' },
  entry: { id, submitted_at: `2026-11-0${(id.length % 8) + 1}T08:12:06Z` },
  source: 'web',
  answers,
  ...more,
});
const who = (value: Json) => ({ ref: 'who', label: 'Who is asking?', type: 'text', value });
const length = (value: Json) => ({ ref: 'len', label: 'How long is the boat?', type: 'number', value });
const berth = (value: Json) => ({ ref: 'berth', label: 'Which berth do you want?', type: 'choices', value });
const notes = (value: Json) => ({ ref: 'notes', label: 'Anything else we should know?', type: 'text', value });

const first = listed('e1', [who('Ada Reed'), length(7.5), berth(['East', 'West']), notes('She draws a metre')]);
const second = listed('e22', [who('Tom Fell'), length(9), berth(['East']), notes('None, thank you')]);

test('a shape is known once a second message was read in the same way', () => {
  const third = listed('e333', [who('Una Marsh'), length(4), berth(['North', 'West', 'East']), notes('Two keels')]);
  expect(byShape(learned(first), third)).toBeNull();
  expect(byShape(learned(first, second), third)).toEqual(whole(third)[0]);
});

test('what is read by its shape says so as the search did, and says that it is sure', () => {
  const shapes = learned(first, second);
  const searched = read(second);
  expect(read(second, shapes)).toEqual({ ...searched, runnersUp: [], envelope: { ...searched.envelope } });
});

describe('a message of a known shape is read as the search reads it', () => {
  test.each<[string, Json]>([
    ['a question that was left out', listed('e333', [who('Una Marsh'), notes('Two keels')])],
    ['the last alone', listed('e333', [notes('Two keels')])],
    [
      'other text, longer',
      listed('e4444', [who('Una\r\nMarsh'), length(4), berth(['North']), notes('x '.repeat(900))]),
    ],
  ])('%s', (_, document) => {
    const known = byShape(learned(first, second), document);
    expect(known).toEqual(whole(document)[0]);
  });
});

describe('what differs from a known shape is searched', () => {
  const shapes = () => learned(first, second);
  test.each<[string, Json]>([
    ['another wording', listed('e1', [{ ...who('Ada Reed'), label: 'What is your name?' }, length(7), notes('None')])],
    ['another kind', listed('e1', [{ ...who('Ada Reed'), type: 'email' }, length(7), notes('None')])],
    ['another question', listed('e1', [who('Ada Reed'), { ...who('Sloop'), ref: 'rig', label: 'Which rig has she?' }])],
    ['another form', listed('e1', [who('Ada Reed')], { form: { key: 'slips', title: 'Slipway booking' } })],
    ['something more', listed('e1', [who('Ada Reed')], { campaign: 'autumn' })],
    ['another order of names', Object.fromEntries(Object.entries(first).reverse())],
    ['a text that holds a document', listed('e1', [who('{"answers":[{"label":"Who?","value":"Tom"}]}')])],
    ['a sort of answer never seen', listed('e1', [who(true), length(7)])],
    ['properties never seen', listed('e1', [who({ first: 'Ada', last: 'Reed' })])],
    [
      'an identifier of another sort',
      listed('e1', [who('Ada Reed')], { entry: { id: 7, submitted_at: '2026-11-01' } }),
    ],
    [
      'a time that is none',
      listed('e1', [who('Ada Reed')], { entry: { id: 'e1', submitted_at: '2026-11-036T08:12' } }),
    ],
    ['a list instead', [first, second]],
    ['a scalar', 'first'],
  ])('%s', (_, document) => {
    expect(byShape(shapes(), document)).toBeNull();
    expect(read(document, shapes())).toEqual(read(document));
  });

  test('and is learned from', () => {
    const rig = { ...who('Gaff cutter'), ref: 'rig', label: 'Which rig has she?' };
    const wider = listed('e333', [who('Una Marsh'), rig, notes('Two keels')]);
    const known = learned(first, second, wider);
    const all = listed('e1', [who('Ada Reed'), rig, length(5), berth(['West']), notes('She draws a metre')]);
    expect(byShape(known, wider)).toEqual(whole(wider)[0]);
    expect(byShape(known, first)).toEqual(whole(first)[0]);
    expect(byShape(known, listed('e1', [rig]))).toMatchObject({ fields: [{ key: 'rig', value: 'Gaff cutter' }] });
    // Between which of the others it stands was not seen of this order.
    expect(read(all, known).submissions).toEqual(whole(all));
  });
});

describe('answers by their names', () => {
  const named = (id: number, answers: JsonObject): JsonObject => ({
    response_id: id,
    submitted_at: '2026-11-03 10:00:00',
    data: answers,
  });
  const one = named(71, {
    full_name: 'Ada Reed',
    boat_length: '7.5',
    berths_wanted: ['East'],
    more_to_say: 'Nothing more',
  });
  const two = named(72, {
    full_name: 'Tom Fell',
    boat_length: '9',
    berths_wanted: ['West', 'East'],
    more_to_say: 'Hull is new',
  });

  test('one that was left out', () => {
    const three = named(73, { full_name: 'Una Marsh', more_to_say: 'We come by night' });
    expect(byShape(learned(one, two), three)).toEqual(whole(three)[0]);
  });
  test('one that is new is searched, and known from then on', () => {
    const wider = named(74, { full_name: 'Una Marsh', boat_length: '4', keel: 'Two of them', more_to_say: 'By night' });
    expect(byShape(learned(one, two), wider)).toBeNull();
    expect(byShape(learned(one, two, wider), wider)).toEqual(whole(wider)[0]);
  });
  test('beside what is told of the submission nothing may be missing', () => {
    const bare = { submitted_at: '2026-11-03 10:00:00', data: one.data! };
    expect(byShape(learned(one, two), bare)).toBeNull();
  });
});

describe('what a reading rests on is never let go', () => {
  const chosen = (value: Json, red = 'Red', id = 4): Json => ({
    entry: 'e1',
    sent: '2026-11-04T08:12:06Z',
    definition: {
      fields: [
        {
          id: 'c',
          label: 'Which colour is her hull?',
          options: [
            { id: 3, label: 'White' },
            { id, label: red },
          ],
        },
        { id: 'n', label: 'What is she called?' },
      ],
    },
    answers: { c: value, n: 'Heron of Withy' },
  });
  test('labels of options', () => {
    const shapes = learned(chosen(3), chosen(3), chosen(4));
    expect(read(chosen(4), shapes).submissions[0]!.fields[0]).toMatchObject({ value: 'Red' });
    expect(read(chosen(4, 'Crimson'), shapes).submissions[0]!.fields[0]).toMatchObject({ value: 'Crimson' });
  });
  test('identifiers of options', () => {
    const shapes = learned(chosen(3), chosen(3), chosen(3, 'Red', 5), chosen(3, 'Red', 6));
    expect(read(chosen(7, 'Red', 7), shapes).submissions).toEqual(whole(chosen(7, 'Red', 7)));
  });
  test('a choice that was blank at first', () => {
    const shapes = learned(chosen(null), chosen(null));
    expect(read(chosen(4), shapes).submissions).toEqual(whole(chosen(4)));
  });
});

test('what counts or tells the time beside an answer may be another in each', () => {
  const timed = (id: string, at: string, seconds: number) =>
    listed(id, [
      { ...who(`Ada of ${id}`), answered_at: at, took: seconds },
      { ...notes('None, thank you'), answered_at: at, took: seconds + 1 },
    ]);
  const messages = [1, 2, 3].map(n => timed(`e${n}`, `2026-11-0${n}T10:00:00Z`, n));
  const shapes = learned(...messages);
  const next = timed('e9', '2026-11-09T11:30:00Z', 40);
  expect(byShape(shapes, next)).toEqual(whole(next)[0]);
});

test('a text that may hold a document is never taken unseen, even where one like it was read', () => {
  const of = (id: string, value: Json) => listed(id, [who(value), notes('None, thank you')]);
  const shapes = learned(of('e1', '["East"]'), of('e22', '["West"]'), of('e333', 'Ada Reed'), of('e1', 'Tom Fell'));
  const next = of('e22', ['a', '{"a":1}']);
  expect(byShape(shapes, next)).toBeNull();
  expect(read(next, shapes).submissions).toEqual(whole(next));
});

test.each([['\u00a0'], ['\u3000 '], ['\u00a0{"answers":[{"label":"Who?","value":"Tom"}]}']])(
  '%j is not taken for a text',
  value => {
    const next = listed('e333', [who(value), notes('Two keels')]);
    expect(read(next, learned(first, second)).submissions).toEqual(whole(next));
  },
);

test('few of many shapes are kept, those used last', () => {
  const shapes = new KnownShapes();
  const of = (n: number) => listed('e1', [who('Ada Reed'), notes('Nothing')], { [`beside_${n}`]: 'x' });
  for (let n = 0; n < 40; n++) for (const _ of [1, 2]) read(of(n), shapes);
  expect([39, 34, 0].map(n => byShape(shapes, of(n)) !== null)).toEqual([true, true, false]);
});

test('whatever is answered, and whatever is left out, a known shape reads like the search', () => {
  const text = fc.oneof(
    fc.constantFrom(
      '',
      ' ',
      'yes',
      'a@example.org',
      '2026-11-04',
      '+44 1632 960001',
      '["East"]',
      '{"a":1}',
      'on',
      '7',
      'One\ntwo',
    ),
    fc.string(),
  );
  const answer = fc.oneof(text, fc.integer(), fc.boolean(), fc.constant(null), fc.array(text, { maxLength: 3 }));
  const message = fc
    .record({
      id: fc.uuid(),
      who: answer,
      length: answer,
      berth: answer,
      notes: answer,
      left: fc.nat(15),
    })
    .map(each => {
      const all = [who(each.who), length(each.length), berth(each.berth), notes(each.notes)];
      return listed(
        each.id,
        all.filter((_, at) => (each.left & (1 << at)) === 0),
      );
    });
  fc.assert(
    fc.property(fc.array(message, { minLength: 1, maxLength: 6 }), messages => {
      const shapes = learned(first, second);
      for (const each of messages) {
        const searched = read(each);
        // Of a message that the search is not sure of, its siblings know more.
        if (searched.envelope?.isSure && searched.envelope.answersAt === '/answers')
          expect(read(each, shapes).submissions).toEqual(searched.submissions);
      }
    }),
    { numRuns: 60 },
  );
});
