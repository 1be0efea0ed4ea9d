import fc from 'fast-check';
import type { Field, Json } from '../submission';
import { decode, pinsFor } from '.';

const encode = (document: object) => new TextEncoder().encode(JSON.stringify(document));
const read = (document: object) => decode(encode(document), 'application/json');
const values = (fields: Field[]) => Object.fromEntries(fields.map(field => [field.key, field.value]));

describe('a list of labelled answers, in any naming', () => {
  const items: [string, Json, Json[]][] = [
    [
      'id, label, answer',
      { entries: 1 },
      [
        { id: 'f1', label: 'Colour of the boat', answer: 'red' },
        { id: 'f2', label: 'Length in metres', answer: '7' },
        { id: 'f3', label: 'Owner’s e-mail', answer: 'kit@example.org' },
      ],
    ],
    [
      'ref, question, value',
      {},
      [
        { ref: 'f1', question: 'Colour of the boat', value: 'red' },
        { ref: 'f2', question: 'Length in metres', value: '7' },
        { ref: 'f3', question: 'Owner’s e-mail', value: 'kit@example.org' },
      ],
    ],
    [
      'unknown names',
      {},
      [
        { zz: 'f1', vraag: 'Colour of the boat', antwoord: 'red' },
        { zz: 'f2', vraag: 'Length in metres', antwoord: '7' },
        { zz: 'f3', vraag: 'Owner’s e-mail', antwoord: 'kit@example.org' },
      ],
    ],
    [
      'varying property',
      {},
      [
        { slot: 'f1', title: 'Colour of the boat', form_of: 'short', short: 'red' },
        { slot: 'f2', title: 'Length in metres', form_of: 'amount', amount: '7' },
        { slot: 'f3', title: 'Owner’s e-mail', form_of: 'post', post: 'kit@example.org' },
      ],
    ],
  ];
  test.each(items)('%s', (_, around, list) => {
    const { submissions, envelope } = read({ ...(around as object), berth: { list } });
    expect(envelope).toMatchObject({ reader: 'labelled-list', answersAt: '/berth/list' });
    expect(values(submissions[0]!.fields)).toEqual({ f1: 'red', f2: '7', f3: 'kit@example.org' });
    expect(submissions[0]!.fields.map(field => field.label)).toEqual([
      'Colour of the boat',
      'Length in metres',
      'Owner’s e-mail',
    ]);
  });

  test('most of them unanswered, the property varying: nobody takes the identifier for the answer', () => {
    const list = [
      { n: 'a1', ask: 'One thing', as: 'x', x: 'yes' },
      { n: 'a2', ask: 'Another thing', as: 'x' },
      { n: 'a3', ask: 'Third thing', as: 'y' },
      { n: 'a4', ask: 'Last thing', as: 'y' },
    ];
    expect(values(read({ list }).submissions[0]!.fields)).toEqual({ a1: 'yes' });
  });

  test('without an identifier the wording is the key', () => {
    expect(
      read({
        rows: [
          { question: 'Which site?', answer: 'AB-07' },
          { question: 'How deep?', answer: '2 m' },
        ],
      }).submissions[0]!.fields,
    ).toMatchObject([{ key: 'Which site?', label: 'Which site?' }, { key: 'How deep?' }]);
  });

  test('option identifiers become their labels', () => {
    const options = [
      { id: 'o1', label: 'Oak' },
      { id: 'o2', label: 'Elm' },
    ];
    const list = [
      { id: 'q1', label: 'Tree seen', type: 'radio', options, value: 'o2' },
      { id: 'q2', label: 'Trees liked', type: 'checkboxes', options, value: ['o1', 'o2'] },
    ];
    expect(values(read({ list }).submissions[0]!.fields)).toEqual({ q1: 'Elm', q2: ['Oak', 'Elm'] });
  });
});

describe('a flat object', () => {
  test('keys are questions, what surrounds them is not', () => {
    const { submissions } = read({
      form_id: 'f-9',
      form_name: 'Moorings',
      submission_id: 81,
      submitted_at: '2026-11-04T08:12:06Z',
      ip_address: '192.0.2.1',
      boat_colour: 'red',
      'Length in metres': 7,
    });
    expect(submissions[0]).toMatchObject({
      form: { key: 'f-9', name: 'Moorings' },
      id: '81',
      submittedAt: '2026-11-04T08:12:06Z',
      meta: { ip_address: '192.0.2.1' },
    });
    expect(submissions[0]!.fields).toMatchObject([
      { key: 'boat_colour', label: 'Boat colour', kind: 'text', value: 'red', pointer: '/boat_colour' },
      { key: 'Length in metres', label: 'Length in metres', kind: 'number', value: 7, pointer: '/Length in metres' },
    ]);
  });

  test('under a key of its own, three levels down', () => {
    const { submissions, envelope } = read({
      event: 'x1',
      created: '2026-11-04T08:12:06Z',
      record: { id: 'r-2', content: { colour: 'red', length: '7' } },
    });
    expect(envelope!.answersAt).toBe('/record/content');
    expect(values(submissions[0]!.fields)).toEqual({ colour: 'red', length: '7' });
  });
});

describe('values', () => {
  test.each<[Json, Json]>([
    ['["Foam","Oil sheen"]', ['Foam', 'Oil sheen']],
    [['Foam '], ['Foam']],
    ['  two\r\nlines ', 'two\nlines'],
    ['[not a list', '[not a list'],
    [0, 0],
    [false, false],
  ])('%j', (sent, value) => expect(values(read({ q: sent, other: 'x' }).submissions[0]!.fields).q).toEqual(value));

  test.each<[Json]>([[null], [''], ['  '], [[]], ['[]']])('%j is no answer, but the question is known', sent => {
    const [submission] = read({ q: sent, other: 'x' }).submissions;
    expect(values(submission!.fields)).toEqual({ other: 'x' });
    expect(submission!.questions.map(question => question.key)).toEqual(['q', 'other']);
  });

  test.each<[string, Json, object[]]>([
    [
      'an object with a link',
      { name: 'a.jpg', url: 'https://files.example.org/a.jpg', size: 12, type: 'image/jpeg' },
      [{ name: 'a.jpg', size: 12, type: 'image/jpeg', url: 'https://files.example.org/a.jpg' }],
    ],
    [
      'a list of them',
      [
        { filename: 'a.jpg', href: 'https://files.example.org/1' },
        { filename: 'b.jpg', href: 'https://files.example.org/2' },
      ],
      [{ name: 'a.jpg' }, { name: 'b.jpg' }],
    ],
    [
      'text that holds such a list',
      '[{"name":"a.jpg","link":"https://files.example.org/a"}]',
      [{ name: 'a.jpg', url: 'https://files.example.org/a' }],
    ],
  ])('files from %s', (_, sent, files) => {
    const [submission] = read({ boat: 'red', pictures: sent }).submissions;
    expect(submission!.files).toMatchObject(files);
    expect(values(submission!.fields)).toEqual({ boat: 'red' });
  });

  test('under a stated file question, bare links and data URIs are files too', () => {
    const list = [
      { id: 'a', label: 'Deck plan', type: 'upload', value: 'https://files.example.org/x/deck%20plan.pdf?sig=1' },
      { id: 'b', label: 'Crest of boat', type: 'upload', value: 'data:image/png;base64,aGVsbG8=' },
      { id: 'c', label: 'Name of boat', type: 'text', value: 'Heron' },
    ];
    expect(read({ list }).submissions[0]!.files).toMatchObject([
      { field: 'a', name: 'deck plan.pdf', url: expect.stringContaining('https') },
      { field: 'b', type: 'image/png', size: 5, url: null },
    ]);
  });
});

test('a list of submissions is read one by one, a list of one too', () => {
  expect(
    read([
      { colour: 'red', length: 7 },
      { colour: 'blue', length: 8 },
    ]).submissions.map(each => values(each.fields)),
  ).toEqual([
    { colour: 'red', length: 7 },
    { colour: 'blue', length: 8 },
  ]);
  expect(read([{ colour: 'red', length: 7 }]).submissions).toHaveLength(1);
});

test('the pointer of every field leads to where it stood', () => {
  const { submissions, document } = read([{ 'a/b': 'x', 'm~n': 'y' }]);
  expect(submissions[0]!.fields.map(field => field.pointer)).toEqual(['/0/a~1b', '/0/m~0n']);
  expect(document).toEqual([{ 'a/b': 'x', 'm~n': 'y' }]);
});

describe('never throws, never hangs', () => {
  const holds = (bytes: Uint8Array, type: string | null, query = '') => {
    const decoded = decode(bytes, type, query);
    expect(Array.isArray(decoded.submissions)).toBe(true);
    if (decoded.submissions.length === 0) expect(decoded.notes.length).toBeGreaterThan(0);
  };
  const types = fc.constantFrom(
    null,
    'application/json',
    'application/x-www-form-urlencoded',
    'text/plain',
    'application/octet-stream',
    'text/plain; charset=utf-7',
  );

  test('arbitrary bytes', () =>
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), types, fc.string(), (bytes, type, query) =>
        holds(bytes, type, query),
      ),
      { numRuns: 400 },
    ));
  test('arbitrary JSON', () =>
    fc.assert(
      fc.property(fc.json({ maxDepth: 6 }), text => holds(new TextEncoder().encode(text), 'application/json')),
      { numRuns: 400 },
    ));
  test('truncated payloads', () => {
    const whole = JSON.stringify({
      list: [
        { id: 'q1', label: 'Tree seen', value: 'Elm' },
        { id: 'q2', label: 'Height', value: 3 },
      ],
    });
    for (let length = 0; length < whole.length; length++)
      holds(new TextEncoder().encode(whole.slice(0, length)), 'application/json');
  });
  test.each([
    ['a megabyte of [', '['.repeat(1_000_000)],
    ['deep nesting', `${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`],
    ['__proto__', '{"__proto__":{"polluted":true},"constructor":{"prototype":{"polluted":true}}}'],
    ['lone surrogates', '{"a":"\\ud800","\\udfff":1}'],
    ['a huge key', `{"${'k'.repeat(100_000)}":1}`],
  ])('%s', (_, text) => {
    holds(new TextEncoder().encode(text), 'application/json');
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
  });
});

// Builders that keep files in a store of their own give a path instead of an address (common practice, no source).
test.each([
  ['/uploads/2026/plan%20b.pdf', 'plan b.pdf'],
  ['forms/17/a.jpg', 'a.jpg'],
  ['https://files.example.org/x/y.png?sig=1', 'y.png'],
])('under a file question %s is the file %s', (reference, name) => {
  const body = new TextEncoder().encode(JSON.stringify({ id: 'x', site: 'Ford', photo: reference }));
  expect(decode(body, 'application/json').submissions[0]!.files).toEqual([
    { field: 'photo', name, type: null, size: null, url: reference },
  ]);
});
test.each(['none', 'and/or', 'see you on 3/4.'])('under a file question “%s” stays text', text => {
  const body = new TextEncoder().encode(JSON.stringify({ id: 'x', site: 'Ford', photo: text }));
  expect(decode(body, 'application/json').submissions[0]!.files).toEqual([]);
});

test('the values of the address beside a body, and the whole text of a mail, can be used too', () => {
  const said = decode(
    new TextEncoder().encode('{"site":"AB-07","note":"all dry"}'),
    'application/json',
    'utm=poster&x=1',
  );
  expect(said.submissions[0]!.meta).toMatchObject({ 'query.utm': 'poster', 'query.x': '1' });
  const mail = 'From: a@example.org\r\nSubject: x\r\n\r\nHello,\r\n\r\nSite: AB-07\r\nNote: all dry\r\n';
  expect(decode(new TextEncoder().encode(mail), 'message/rfc822').submissions[0]!.meta).toMatchObject({
    text: 'Hello,\n\nSite: AB-07\nNote: all dry',
  });
});
test('pins can be had for what came second', () => {
  expect(pinsFor({ answersAt: '/a', splitAt: null })).toEqual({ answers: '/a' });
  expect(pinsFor({ answersAt: '/list', splitAt: '/list' })).toEqual({ split: '/list' });
});
