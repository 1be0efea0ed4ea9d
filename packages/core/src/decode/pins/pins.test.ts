import {
  bodyReaders,
  decode,
  generationsOf,
  isUnpinned,
  learnLandmarks,
  pinAt,
  readByLandmarks,
  type PinRole,
  type Pins,
  withGeneration,
} from '..';
import type { Json } from '../../submission';
import { mediaReaders } from '../media';

const read = (document: Json, pins: Pins) =>
  decode(new TextEncoder().encode(JSON.stringify(document)), 'application/json', '', pins);
const answers = (document: Json, pins: Pins) =>
  read(document, pins).submissions.map(each => each.fields.map(field => [field.key, field.label, field.value]));

/** A document that nobody could read by looks alone: nothing is named for what it is. */
const odd: Json = {
  blk: { n: 'kit-form', t: '2026-05-02T10:00:00Z' },
  rows: [
    { w: 'k1', p: 'Which kit?', x: { z: 'Strip set' }, y: 'n/a' },
    { w: 'k2', p: 'How many?', x: { z: 3 }, y: 'n/a' },
  ],
};
const batch: Json = {
  head: { kind: 'ignored' },
  out: [
    { sort: 'alert', no: 'A-1', body: { where: 'Mill Race', what: 'foam' } },
    { sort: 'access', no: 'A-2', body: { who: 'Wen Xiu', in: '09:10' } },
  ],
};

describe('pinning by pointing', () => {
  const pointed: [name: string, document: Json, role: PinRole, pointer: string, splitAt: string | null, pins: Pins][] =
    [
      ['a label inside an item', odd, 'label', '/rows/1/p', null, { label: '/p' }],
      ['an answer deeper in an item', odd, 'value', '/rows/0/x/z', null, { value: '/x/z' }],
      ['a list of answers', odd, 'answers', '/rows', null, { answers: '/rows' }],
      ['the form, beside the answers', odd, 'form', '/blk/n', null, { form: '/blk/n' }],
      ['anything in a list splits there', batch, 'split', '/out/1/body/who', null, { split: '/out' }],
      ['the form inside a batch', batch, 'form', '/out/1/sort', '/out', { split: '/out', form: '/sort' }],
      ['answers inside a batch', batch, 'answers', '/out/0/body', '/out', { split: '/out', answers: '/body' }],
      ['the form of the whole batch', batch, 'form', '/head/kind', '/out', { form: '/head/kind' }],
      [
        'a label in a dictionary of answers',
        { q: { a1: { say: 'Site', got: 'x' }, a2: { say: 'When', got: 'y' } } },
        'label',
        '/q/a2/say',
        null,
        { label: '/say' },
      ],
    ];
  test.each(pointed)('%s', (_, document, role, pointer, splitAt, expected) => {
    expect(pinAt(document, {}, role, pointer, splitAt)).toEqual(expected);
  });

  test.each([
    ['label', '/rows', 'Point at a text'],
    ['form', '/blk', 'Point at a text or number'],
    ['answers', '/blk/n', 'Point at what holds the answers'],
    ['split', '/blk/n', 'Point at a list'],
    ['id', '/nowhere', 'nothing at this place'],
    ['label', '/blk/n', 'inside one answer'],
  ] as const)('%s at %s is refused in words', (role, pointer, words) => {
    expect(pinAt(odd, {}, role, pointer, null)).toEqual({ refusal: expect.stringContaining(words) as string });
  });
});

describe('reading with pins', () => {
  it('takes label, answer and key from where they were pinned, and says so', () => {
    const pins = { label: '/p', value: '/x/z', key: '/w', form: '/blk/n' };
    expect(answers(odd, pins)).toEqual([
      [
        ['k1', 'Which kit?', 'Strip set'],
        ['k2', 'How many?', 3],
      ],
    ]);
    const { submissions, envelope } = read(odd, pins);
    expect(submissions[0]!.form?.key).toBe('kit-form');
    expect(submissions[0]!.fields[0]!.pointer).toBe('/rows/0/x/z');
    expect(envelope).toMatchObject({ score: 1, label: 'list of labelled answers, as pinned' });
    expect(envelope?.why).toContain('Pinned: /p is the question text');
  });

  it('splits a batch and tells the forms in it apart', () => {
    const { submissions } = read(batch, { split: '/out', answers: '/body', form: '/sort', id: '/no' });
    expect(submissions.map(({ form, id, fields }) => [form?.key, id, fields.map(each => each.key)])).toEqual([
      ['alert', 'A-1', ['where', 'what']],
      ['access', 'A-2', ['who', 'in']],
    ]);
  });

  it('reads automatically, with a note, where a message has not what was pinned', () => {
    const { submissions, notes } = read({ site: 'Ford', ph: '7' }, { answers: '/rows' });
    expect(submissions[0]!.fields.map(each => each.key)).toEqual(['site', 'ph']);
    expect(notes).toEqual([
      {
        code: 'pins.missing',
        message: 'The place pinned for the answers, /rows, is not in this message. It was read without pins.',
      },
    ]);
  });

  it('takes an object of the answers whatever stands beside it', () => {
    const document = {
      data: { a: '1' },
      answers: { misleading: 'yes', too: 'no' },
      inner: { real: { site: 'Ford', ph: '7' } },
    };
    expect(answers(document, { answers: '/inner/real' })[0]!.map(([key]) => key)).toEqual(['site', 'ph']);
  });

  it('gathers pages whose items have the pinned label', () => {
    const paged = {
      p: [
        {
          t: 'Page one',
          it: [
            { l: 'Site', g: 'Ford' },
            { l: 'When', g: 'today' },
          ],
        },
        {
          t: 'Page two',
          it: [
            { l: 'pH', g: '7' },
            { l: 'Signs', g: 'Foam' },
          ],
        },
      ],
    };
    expect(answers(paged, { label: '/l', value: '/g' })[0]!.map(([, label]) => label)).toEqual([
      'Site',
      'When',
      'pH',
      'Signs',
    ]);
  });

  it.each([null, [], {}, 'text', 7, [[[]]], { rows: null }, { rows: [null, 1] }] as Json[])(
    'never throws on %j',
    document => {
      for (const pins of [
        { split: '/rows' },
        { answers: '/rows' },
        { label: '/p' },
        { value: '/x', key: '' },
        { form: '/a/b' },
      ])
        expect(read(document, pins).notes.length).toBeGreaterThanOrEqual(0);
    },
  );
});

describe('learning where values stand in running text', () => {
  const first =
    'Hello,\nMiss Quill of Fernhollow School would like to visit on 12 May with 24 pupils.\nBest wishes\nThe form';
  const second =
    'Hello,\nMr Oakes of Basin Primary would like to visit on 3 June with 9 pupils.\nBest wishes\nThe form';
  const values = [
    { label: 'Teacher', value: 'Miss Quill' },
    { label: 'School', value: 'Fernhollow School' },
    { label: 'Day', value: '12 May' },
    { label: 'Pupils', value: '24' },
  ];

  it('needs one mail, and reads the next', () => {
    const { landmarks, problems } = learnLandmarks([{ text: first, values }]);
    expect(problems).toEqual([]);
    expect(readByLandmarks(second, landmarks)).toEqual([
      { label: 'Teacher', value: 'Mr Oakes' },
      { label: 'School', value: 'Basin Primary' },
      { label: 'Day', value: '3 June' },
      { label: 'Pupils', value: '9' },
    ]);
  });

  it('two mails teach which of the words around a value stay', () => {
    const letters = [
      { text: 'Dear team, this is Ana. I have 3 kits left.', values: [{ label: 'Kits', value: '3' }] },
      { text: 'Hi! I have 12 kits, sorry.', values: [{ label: 'Kits', value: '12' }] },
    ];
    const { landmarks } = learnLandmarks(letters);
    expect(landmarks).toEqual([{ label: 'Kits', before: ' I have ', after: ' kits' }]);
    expect(readByLandmarks('Well, I have 40 kits.', landmarks)).toEqual([{ label: 'Kits', value: '40' }]);
  });

  it('of one mail takes no more words than it has to: the rest may be different next time', () => {
    const text = 'Mr Oakes of Basin Primary would like to visit on 3 June.';
    const { landmarks } = learnLandmarks([{ text, values: [{ label: 'School', value: 'Basin Primary' }] }]);
    expect(landmarks).toEqual([{ label: 'School', before: 'Oakes of ', after: ' would like' }]);
  });

  it('reads values of several lines, and says which is not there', () => {
    const { landmarks } = learnLandmarks([
      { text: 'Note:\nlow water\nstones dry\nEnd.', values: [{ label: 'Note', value: 'low water\nstones dry' }] },
    ]);
    expect(readByLandmarks('Note:\r\none  line\r\nEnd.', landmarks)).toEqual([{ label: 'Note', value: 'one line' }]);
    expect(readByLandmarks('Something else', landmarks)).toEqual([{ label: 'Note', value: null }]);
  });

  it('says what can’t be learned', () => {
    expect(learnLandmarks([{ text: 'abc', values: [{ label: 'Site', value: 'Ford' }] }]).problems[0]!.message).toBe(
      'What was given for “Site” does not stand in any of these messages.',
    );
    const apart = [
      { text: 'x Ford y', values: [{ label: 'Site', value: 'Ford' }] },
      { text: '1 Weir 2', values: [{ label: 'Site', value: 'Weir' }] },
    ];
    expect(learnLandmarks(apart).landmarks).toEqual([{ label: 'Site', before: ' ', after: ' ' }]);
    const none = [
      { text: 'x:Ford-y', values: [{ label: 'Site', value: 'Ford' }] },
      { text: '1.Weir,2', values: [{ label: 'Site', value: 'Weir' }] },
    ];
    expect(learnLandmarks(none).problems[0]!.message).toContain('stands before “Site”');
  });

  it('is a reading like any other, kept as data', () => {
    const { landmarks } = learnLandmarks([{ text: first, values }]);
    const mail = { from: 'school@example.org', subject: 'Visit', text: second };
    const { submissions, envelope } = read(mail, { text: { at: '/text', landmarks } });
    expect(submissions[0]!.fields.map(each => each.value)).toEqual(['Mr Oakes', 'Basin Primary', '3 June', '9']);
    expect(submissions[0]!.meta).toMatchObject({ subject: 'Visit' });
    expect(envelope?.label).toBe('values by the text around them, as pinned');
  });
});

describe('generations of a payload', () => {
  /** The same form, before and after its builder moved everything. */
  const older: Json = { blk: { n: 'kit-form' }, rows: [{ w: 'k1', p: 'Which kit?', x: { z: 'Strip set' } }] };
  const newer: Json = { data: { out: [{ id: 'k1', said: 'Test tubes', ask: 'Which kit?' }], of: 'kit-form' } };
  const first: Pins = { label: '/p', value: '/x/z', key: '/w', form: '/blk/n' };
  const both: Pins = {
    ...first,
    others: [{ answers: '/data/out', label: '/ask', value: '/said', key: '/id', form: '/data/of' }],
  };

  it.each<[string, Json, string, number]>([
    ['the first', older, 'Strip set', 0],
    ['the other', newer, 'Test tubes', 1],
  ])('each is read by its own pins: %s', (_, document, said, generation) => {
    const { submissions, envelope, notes } = read(document, both);
    expect(submissions.map(each => [each.form?.key, each.fields])).toEqual([
      ['kit-form', [expect.objectContaining({ key: 'k1', label: 'Which kit?', value: said })]],
    ]);
    expect([envelope?.generation, notes]).toEqual([generation, []]);
  });

  it('one that none of them fits is read without, and a note says so', () => {
    const { submissions, envelope, notes } = read({ site: 'Ford', ph: '7' }, both);
    expect(submissions[0]!.fields.map(each => each.key)).toEqual(['site', 'ph']);
    expect(envelope?.generation).toBeNull();
    expect(notes).toEqual([
      { code: 'pins.missing', message: expect.stringMatching(/^None of 2 generations/) as string },
    ]);
  });

  it.each<[string, Pins, string]>([
    ['the form', { ...first, form: '/blk/kind' }, 'the form, /blk/kind,'],
    ['the identifier', { ...first, id: '/blk/no' }, 'the identifier, /blk/no,'],
    ['the answer', { ...first, value: '/x/y' }, 'the answer, /x/y,'],
    ['the identifier of a question', { ...first, key: '/v' }, 'the question’s identifier, /v,'],
  ])('what is not found of a set is told, and the rest of it holds: %s', (_, pins, words) => {
    const { submissions, envelope, notes } = read(older, pins);
    expect(submissions[0]!.fields[0]).toMatchObject({ label: 'Which kit?' });
    expect(envelope?.generation).toBe(0);
    expect(notes).toEqual([{ code: 'pins.lacking', message: expect.stringContaining(words) as string }]);
  });

  it('those of which all are found go before others that are found in part', () => {
    const pins: Pins = { form: '/nowhere', others: [first] };
    expect(read(older, pins).envelope?.generation).toBe(1);
    expect(read({ ...(older as object), nowhere: 'x' }, pins).envelope?.generation).toBe(0);
  });

  it.each<[string, Pins, number, Pins, Pins]>([
    ['the first of all', {}, 0, first, first],
    ['one more', first, 1, { id: '/n' }, { ...first, others: [{ id: '/n' }] }],
    ['one set anew', both, 0, { id: '/n' }, { id: '/n', others: both.others! }],
    ['one taken off', both, 0, {}, both.others![0]!],
    ['the last taken off', first, 0, {}, {}],
  ])('set: %s', (_, before, generation, set, after) => {
    expect(withGeneration(before, generation, set)).toEqual(after);
    expect(generationsOf(withGeneration(before, generation, set))).toHaveLength(
      isUnpinned(after) ? 0 : 1 + (after.others?.length ?? 0),
    );
  });
});

describe('what else can be pinned', () => {
  const map: Json = {
    log: { 'a-1': { who: 'Ada Reed', came: '2026-11-01' }, 'a-2': { who: 'Tom Fell', came: '2026-11-02' } },
  };

  it('an object by identifiers whose entries are submissions', () => {
    expect(pinAt(map, {}, 'split', '/log/a-1/who', null)).toEqual({ split: '/log' });
    const { submissions } = read(map, { split: '/log' });
    expect(submissions.map(({ id, fields }) => [id, fields[0]!.value])).toEqual([
      ['a-1', 'Ada Reed'],
      ['a-2', 'Tom Fell'],
    ]);
  });

  it('the time', () => {
    const document = { stamp: { x: '4 November' }, answers: { who: 'Ada Reed', why: 'Two nights' } };
    expect(pinAt(document, {}, 'time', '/stamp/x', null)).toEqual({ time: '/stamp/x' });
    const [submission] = read(document, { time: '/stamp/x' }).submissions;
    // What tells of the submission is no answer of it.
    expect([submission!.submittedAt, submission!.fields.map(each => each.key)]).toEqual(['4 November', ['who', 'why']]);
    expect(read(document, { time: '/stamp/y' }).notes[0]!.message).toContain('the time, /stamp/y,');
  });

  it('a question for files', () => {
    const link = 'https://store.example.org/7/letter.pdf';
    const document: Json = { answers: [{ ref: 'proof', label: 'Anything that shows it?', value: link }, { ref: 'who', label: 'Who is asking?', value: 'Ada' }] }; // prettier-ignore
    const { questions } = read(document, {}).submissions[0]!;
    expect(pinAt(document, {}, 'files', '/answers/0', null, questions)).toEqual({ files: ['proof'] });
    expect(pinAt(document, {}, 'files', '/answers', null, [])).toEqual({
      refusal: 'Point at the answer to a question.',
    });
    const [submission] = read(document, { files: ['proof'] }).submissions;
    // What a person pointed at is meant, however near another reading comes.
    expect(read(document, { files: ['proof'] }).envelope?.isSure).toBe(true);
    expect([submission!.files, submission!.fields.map(each => each.key)]).toEqual([
      [expect.objectContaining({ field: 'proof', name: 'letter.pdf' })],
      ['who'],
    ]);
  });

  describe('how a body is read', () => {
    const rows = new TextEncoder().encode('Name|Boat|Nights\nAda Reed|Heron|2\nTom Fell|Otter|3\n');
    const as = (body: Uint8Array, type: string | null, pins: Pins) => decode(body, type, '', pins);
    const pins: Pins = { media: { stated: 'application/json', as: 'separated' } };
    it('by the reader that was chosen for what it states', () => {
      const read = as(rows, 'application/json; charset=utf-8', pins);
      expect([read.media, read.submissions.length, read.envelope?.generation, read.notes]).toEqual([
        'separated',
        2,
        0,
        [],
      ]);
    });
    it('what states something else is read as it looks, without these pins', () => {
      const { envelope, notes } = as(rows, 'text/csv', { media: { stated: 'application/json', as: 'plain' } });
      expect([envelope?.generation, notes.map(each => each.message)]).toEqual([
        null,
        [expect.stringContaining('for bodies sent as application/json')],
      ]);
    });
    it('where the chosen one can’t read it, others do', () => {
      const body = new TextEncoder().encode('{"who":"Ada Reed","why":"Two nights"}');
      expect(as(body, 'text/x', { media: { stated: 'text/x', as: 'xml' } }).media).toBe('json');
      expect(as(new Uint8Array(), null, pins).media).toBe('none');
    });
    it('each reader can be chosen, by the name it has', () => {
      expect(Object.fromEntries(mediaReaders.map(({ id, label }) => [id, label]))).toEqual(bodyReaders);
    });
  });
});

test.each<[string, Json, string, Json]>([
  ['at the top', { a: 'x y', b: { c: 'z' } }, '', {}],
  ['in an object', { source: 'site', data: { a: 'x y', b: 'an answer' } }, '/data', { source: 'site' }],
])('answers that are pinned %s are not told beside themselves', (_, document, answers, meta) => {
  const body = new TextEncoder().encode(JSON.stringify(document));
  const [submission] = decode(body, 'application/json', '', { answers }).submissions;
  expect([submission!.fields.length, submission!.id, submission!.meta]).toEqual([2, null, meta]);
});
