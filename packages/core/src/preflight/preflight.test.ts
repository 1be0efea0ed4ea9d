import { ROUTE_FORMAT, newLine, usualTerms, type Call, type Line, type RouteDefinition } from '../route';
import type { RouteRehearsal } from '../rehearse';
import type { Json } from '../submission';
import type { Operation } from '../target';
import { targetField } from '../testing';
import { accessOf, checks, preflight, soughtIn, type Seen } from '.';

const consentAuth = {
  kind: 'consent' as const,
  authorizeUrl: 'https://a.example.org/a',
  tokenUrl: 'https://a.example.org/t',
  clientId: 'c',
  scope: '',
  clientIn: 'header' as const,
};

const operation: Operation = {
  id: 'create',
  label: 'Create',
  method: 'POST',
  path: '/r',
  fields: [targetField('site', { required: true }), targetField('ph')],
};
const call = (more: Partial<Call> = {}): Call => ({
  id: 'a',
  targetId: 't',
  operationId: 'create',
  lines: [{ ...newLine('l', 'site'), source: { from: 'field', field: 'site' } }],
  ...more,
});
const definition = (more: Partial<RouteDefinition> = {}): RouteDefinition => ({
  format: ROUTE_FORMAT,
  name: 'R',
  condition: { all: [] },
  calls: [call()],
  terms: usualTerms,
  ...more,
});
const seen = (more: Partial<Seen> = {}): Seen => ({
  definition: definition(),
  targets: [{ id: 't', name: 'Register', operations: [operation] }],
  ...more,
});
const summary = (going: number, sendable: number): RouteRehearsal => ({
  going,
  sendable,
  goes: new Uint8Array(),
  sends: new Uint8Array(),
  calls: [],
  callIds: [],
  parts: [],
});
const needsTrial = definition({ terms: { ...usualTerms, needsTrial: true } });
const held = (verdict: 'same' | 'lost' | 'reformatted') => ({
  problems: [],
  done: [
    {
      callId: 'a',
      item: '0',
      what: 'created' as const,
      answer: null,
      note: null,
      compared: [{ field: 'site', lineId: 'l', verdict, sent: 'AB-07', stored: null }],
    },
  ],
});
const found = (id: string, of: Seen) => checks.find(check => check.id === id)!.look(of);
const lookUp = {
  operationId: 'find',
  line: newLine('f', 'site'),
  list: '',
  equals: '',
  whenNone: 'create',
  whenSeveral: 'hold',
  update: null,
} as const;

describe('what is used of a record, found or made', () => {
  const part = (pointer: string) => ({ pointer, label: '', type: 'text' as const });
  const make: Operation = { ...operation, id: 'make', answer: [part('/tag/id')] };
  const search: Operation = {
    ...operation,
    id: 'find',
    answer: [{ pointer: '/items', label: '', type: 'json', items: [part('/id'), part('/name')] }],
  };
  const uses = (field: string, first: Partial<Call>): Partial<Seen> => ({
    targets: [{ id: 't', name: 'Tags', operations: [make, search, operation] }],
    definition: definition({
      calls: [
        call({ id: 'tag', operationId: 'make', ...first }),
        call({ id: 'note', lines: [{ ...newLine('l', 'site'), source: { from: 'field', field } }] }),
      ],
    }),
  });
  const find = { ...lookUp, list: '/items', equals: '/name' };
  test.each<[string, string, Partial<Call>, string | null, boolean]>([
    [
      'the answer to making one, where one may be found',
      '@answer/tag/tag/id',
      { find },
      'missing if its record was found',
      false,
    ],
    ['what a record has, where one may be made', '@answer/tag/id', { find }, 'missing if its record was made', false],
    ['the same where none is made', '@answer/tag/id', { find: { ...find, whenNone: 'hold' } }, null, false],
    ['the answer where nothing is looked for', '@answer/tag/tag/id', {}, null, false],
    ['one reference for both', '@record/tag', { find, identity: { found: '/id', made: '/tag/id' } }, null, false],
    ['that, where nobody said what identifies it', '@record/tag', { find }, 'whose record ID is not set', true],
    [
      'a look-up that nobody finished',
      '@record/tag',
      { find: { ...find, equals: '' }, identity: { found: '/id', made: '/tag/id' } },
      'value to compare with a record is not set',
      true,
    ],
    [
      'one that takes what it is answered with',
      '@record/tag',
      { find: { ...find, equals: '', takesAny: true }, identity: { found: '/id', made: '/tag/id' } },
      null,
      false,
    ],
  ])('%s', (_, field, first, words, stops) => {
    const findings = found('either-way', seen(uses(field, first)));
    expect(findings.map(each => [each.words.includes(words ?? ''), each.stops])).toEqual(
      words === null ? [] : [[true, stops]],
    );
  });
});

describe('what keeps a route from going live', () => {
  test.each<[string, string, Partial<Seen>, RegExp]>([
    ['operations', 'a target that is gone', { targets: [] }, /A target of this route was removed/],
    [
      'operations',
      'an operation that is gone',
      { definition: definition({ calls: [call({ operationId: 'old' })] }) },
      /Register no longer offers “old”/,
    ],
    [
      'operations',
      'a lookup that is gone',
      { definition: definition({ calls: [call({ find: lookUp })] }) },
      /no longer offers “find”/,
    ],
    [
      'operations',
      'a reading back that is gone',
      { definition: definition({ calls: [call({ readBack: { operationId: 'read', to: 'id', from: '/id' } })] }) },
      /no longer offers “read”/,
    ],
    [
      'required',
      'a required field that nothing fills',
      { definition: definition({ calls: [call({ lines: [] })] }) },
      /Required fields missing: site\./,
    ],
    [
      'required',
      'a line that nobody filled in',
      { definition: definition({ calls: [call({ lines: [newLine('l', 'site')] })] }) },
      /site/,
    ],
    [
      'references',
      'an answer of a later call',
      {
        definition: definition({
          calls: [
            call({ lines: [{ ...newLine('l', 'site'), source: { from: 'field', field: '@answer/b/id' } }] }),
            call({ id: 'b' }),
          ],
        }),
      },
      /Call 1: It uses the response of a call that does not run before it\./,
    ],
    [
      'recorded',
      'samples that can’t be had',
      { rehearsal: { fault: 'The server does not answer.' } },
      /could not be rehearsed: The server does not answer\./,
    ],
    ['recorded', 'no rehearsal yet', { rehearsal: { summary: null, samples: 3 } }, /Rehearsing/],
    [
      'targets',
      'a target that does not answer',
      { reached: [{ name: 'Register', answer: { ok: false, words: 'It is down.' } }] },
      /Register: It is down\./,
    ],
    [
      'targets',
      'a target that was not heard yet',
      { reached: [{ name: 'Register', answer: null }] },
      /Checking Register/,
    ],
    ['trial', 'no real try', { definition: needsTrial, trial: null }, /needs a real test/],
    [
      'trial',
      'one that failed',
      { definition: needsTrial, trial: { problems: [{ message: 'No.' }], done: [] } },
      /failed: No\./,
    ],
    [
      'trial',
      'one that read nothing back',
      { definition: needsTrial, trial: { problems: [], done: [] } },
      /read nothing back/,
    ],
    ['trial', 'one that lost something', { definition: needsTrial, trial: held('lost') }, /did not store site/],
  ])('%s: %s', (id, _, more, words) => {
    const [finding] = found(id, seen(more));
    expect(finding).toMatchObject({ stops: true, words: expect.stringMatching(words) });
    expect(preflight(seen(more)).some(each => each.stops)).toBe(true);
  });
});

describe('what is only to be known', () => {
  test.each<[string, string, Partial<Seen>, ('fine' | 'look')[], RegExp]>([
    ['required', 'all is filled', {}, ['fine'], /All required fields have a source/],
    [
      'recorded',
      'all can be sent',
      { rehearsal: { summary: summary(2, 2), samples: 3 } },
      ['fine', 'fine'],
      /2 of 3 past submissions pass/,
    ],
    [
      'recorded',
      'some can’t',
      { rehearsal: { summary: summary(2, 1), samples: 1 } },
      ['fine', 'look'],
      /2 of 1 past submission pass/,
    ],
    [
      'recorded',
      'none go',
      { rehearsal: { summary: summary(0, 0), samples: 3 } },
      ['look'],
      /No past submission passes/,
    ],
    [
      'recorded',
      'none are there',
      { rehearsal: { summary: summary(0, 0), samples: 0 } },
      ['look'],
      /No past submission to try/,
    ],
    [
      'targets',
      'one that answers',
      { reached: [{ name: 'Register', answer: { ok: true, words: 'It answered.' } }] },
      ['fine'],
      /It answered/,
    ],
    [
      'files',
      'files that can’t be had',
      { files: { looked: 2, faults: ['It is gone.'] } },
      ['look'],
      /1 of 2 checked files.* It is gone\./,
    ],
    ['files', 'files that can', { files: { looked: 2, faults: [] } }, ['fine'], /2 checked/],
    [
      'files',
      'files that can’t be looked for',
      { files: { fault: 'It is busy.' } },
      ['look'],
      /could not be checked. It is busy/,
    ],
    [
      'trial',
      'one without loss',
      { definition: needsTrial, trial: held('reformatted') },
      ['fine'],
      /read back without differences/,
    ],
  ])('%s: %s', (id, _, more, tones, words) => {
    const findings = found(id, seen(more));
    expect(findings.map(each => [each.tone, each.stops])).toEqual(tones.map(tone => [tone, false]));
    expect(findings.map(each => each.words).join(' ')).toMatch(words);
  });
});

test('what was not looked at is not said', () => {
  expect(preflight(seen())).toEqual([{ tone: 'fine', words: 'All required fields have a source.', stops: false }]);
  expect(preflight(seen({ trial: null, files: { looked: 0, faults: [] } }))).toHaveLength(1);
});

test('each check has a name of its own', () => {
  expect(new Set(checks.map(each => each.id)).size).toBe(checks.length);
});

describe('a call that would send nothing', () => {
  const loose: Operation = {
    ...operation,
    fields: [targetField('site'), targetField('v', { in: 'query', pointer: 'v' })],
  };
  const looked = (fields: Operation['fields'], lines: Call['lines']) =>
    found('something', {
      ...seen({ definition: definition({ calls: [call({ lines })] }) }),
      targets: [{ id: 't', name: 'T', operations: [{ ...loose, fields }] }],
    });
  const filled = call().lines;
  test('stops; one line, or what is always the same, is something', () => {
    expect(looked(loose.fields, [newLine('l', 'site')])).toMatchObject([
      { stops: true, words: expect.stringContaining('“Create” would send nothing') },
    ]);
    expect(looked(loose.fields, filled)).toEqual([]);
    expect(looked([targetField('site', { fixed: 'AB-07' })], [])).toEqual([]);
    expect(looked([targetField('v', { in: 'query', pointer: 'v' })], [])).toEqual([]);
  });
});

describe('approved rehearsals', () => {
  test.each<[number, number, string, boolean]>([
    [0, 0, 'No proofs yet', false],
    [1, 0, 'The proof passes.', false],
    [7, 0, 'All 7 proofs pass.', false],
    [7, 2, '2 of 7 proofs differ from what was approved.', true],
    [1, 1, '1 of 1 proof differs from what was approved.', true],
  ])('%i, %i of which differ', (total, differing, words, stops) =>
    expect(found('proofs', seen({ proofs: { total, differing } }))).toMatchObject([
      { words: expect.stringContaining(words), stops },
    ]),
  );
  test('nothing is said of them where they were not looked at', () => expect(found('proofs', seen())).toEqual([]));
});

describe('what a mapping should not do unseen', () => {
  const line = (id: string, to: string, more: Partial<Call['lines'][number]> = {}): Call['lines'][number] => ({
    ...newLine(id, to),
    source: { from: 'field', field: id },
    ...more,
  });
  const ofLines = (lines: Call['lines'], more: Partial<Call> = {}) =>
    seen({ definition: definition({ calls: [call({ lines, ...more })] }) });
  const totals = (lineId: string, fine: number, blank: number, trouble = 0) => ({
    lineId,
    fine,
    blank,
    trouble,
    troubles: [],
  });
  const rehearsed = (lines: ReturnType<typeof totals>[], going = 20, samples = 20): Pick<Seen, 'rehearsal'> => ({
    rehearsal: {
      summary: {
        ...summary(going, going),
        callIds: ['a'],
        calls: [
          {
            going,
            sendable: going,
            missing: [],
            lines,
            goes: new Uint8Array(),
            sends: new Uint8Array(),
            states: new Uint8Array(),
          },
        ],
      },
      samples,
    },
  });
  const update = { operationId: 'patch', to: 'id', from: '/id' };

  test('two lines for one field stop, and lead to the second', () => {
    expect(found('twice', ofLines([line('x', 'site'), line('y', 'site')]))).toEqual([
      {
        tone: 'trouble',
        words: 'Two lines fill site.',
        stops: true,
        remedy: expect.any(String),
        at: { callId: 'a', lineId: 'y' },
      },
    ]);
    expect(found('twice', ofLines([line('x', 'site'), { ...line('y', 'site'), source: null }]))).toEqual([]);
  });
  test('a line whose field is gone is told', () => {
    expect(found('loose', ofLines([line('x', 'site'), line('y', 'gone')]))).toMatchObject([
      { tone: 'look', stops: false, words: expect.stringContaining('gone'), at: { lineId: 'y' } },
    ]);
    expect(found('loose', ofLines([line('x', 'site')]))).toEqual([]);
  });
  test('a line that is blank in every sample is told, once there are a few', () => {
    const of = (fine: number, blank: number, going = 20) =>
      found('never', { ...ofLines([line('x', 'site')]), ...rehearsed([totals('x', fine, blank)], going) });
    expect(of(0, 20)).toMatchObject([{ words: 'site: blank in every past submission.', at: { lineId: 'x' } }]);
    expect(of(1, 19)).toEqual([]);
    expect(of(0, 3, 3)).toEqual([]);
    expect(
      found('never', {
        ...ofLines([line('x', 'site', { source: { from: 'constant', value: '' } })]),
        ...rehearsed([totals('x', 0, 20)]),
      }),
    ).toEqual([]);
  });
  test.each<[string, Partial<Call['lines'][number]>, boolean, number]>([
    ['null over what is there', { whenBlank: 'null' }, true, 1],
    ['an empty text over it', { whenBlank: 'empty' }, true, 1],
    ['left out', { whenBlank: 'leaveOut' }, true, 0],
    ['only where it is blank', { whenBlank: 'null', writes: 'whereBlank' }, true, 0],
    ['nothing is found', { whenBlank: 'null' }, false, 0],
  ])('blanks: %s', (_, more, finds, count) => {
    const of = ofLines([line('x', 'site', more)], finds ? { find: { ...lookUp, update } } : {});
    expect(found('blanks', of)).toHaveLength(count);
  });
  test.each<[Json, number]>([
    ['[{"email": "a@example.org"', 1],
    ['{"a": 1}', 0],
    ['plain words', 0],
    ['', 0],
    [[{ email: 'a@example.org' }], 0],
  ])('a fixed value for any JSON: %j', (value, count) => {
    const rows: Operation = { ...operation, fields: [targetField('rows', { type: 'json' }), targetField('note')] };
    const of = (to: string) =>
      seen({
        definition: ofLines([line('x', to, { source: { from: 'constant', value } })]).definition!,
        targets: [{ id: 't', name: 'T', operations: [rows] }],
      });
    expect(found('constants', of('rows'))).toHaveLength(count);
    expect(found('constants', of('note'))).toEqual([]);
  });
  test('what an update has no field for is told where a record may be found', () => {
    const patch: Operation = { ...operation, id: 'patch', method: 'PATCH', fields: [targetField('site')] };
    const of = (more: Partial<Call['lines'][number]>, finds = true) => {
      const { definition: draft } = ofLines([line('x', 'ph', more), line('y', 'site')], finds ? { find: { ...lookUp, update } } : {}) as Seen; // prettier-ignore
      const targets = [{ id: 't', name: 'T', operations: [operation, patch] }];
      return found('updates', seen({ definition: draft, targets }));
    };
    expect(of({})).toMatchObject([
      { tone: 'look', words: expect.stringMatching(/^ph: not written to an existing record/), at: { lineId: 'x' } },
    ]);
    expect(of({ writes: 'onCreate' })).toEqual([]);
    expect(of({ source: null })).toEqual([]);
    expect(of({}, false)).toEqual([]);
  });
  test('a condition that lets all through is told, once there are many', () => {
    const conditional = definition({ condition: { all: [{ field: 'ph', is: 'above', values: ['0'], not: false }] } });
    const of = (going: number, samples: number, of = conditional) =>
      found('condition', { ...seen({ definition: of }), ...rehearsed([], going, samples) });
    expect(of(20, 20)).toMatchObject([{ tone: 'look', words: 'All 20 past submissions pass the filter.' }]);
    expect(of(19, 20)).toEqual([]);
    expect(of(3, 3)).toEqual([]);
    expect(of(20, 20, definition())).toEqual([]);
  });
  test('an operation that nobody described is told', () => {
    const loose: Operation = { ...operation, fields: ['a', 'b', 'c'].map(key => targetField(key)) };
    const of = (operations: Operation[]) => found('described', seen({ targets: [{ id: 't', name: 'T', operations }] }));
    expect(of([loose])).toMatchObject([{ tone: 'look', words: expect.stringContaining('“Create”') }]);
    expect(of([operation])).toEqual([]);
    expect(of([{ ...loose, method: 'GET' }])).toEqual([]);
  });
  test.each<[Parameters<typeof accessOf>[0], string | undefined]>([
    [{ auth: { kind: 'none' }, hasToken: false, consent: null }, undefined],
    [{ auth: { kind: 'bearer' }, hasToken: true, consent: null }, undefined],
    [{ auth: { kind: 'bearer' }, hasToken: false, consent: null }, 'missing'],
    [{ auth: consentAuth, hasToken: false, consent: null }, 'consent'],
    [{ auth: consentAuth, hasToken: true, consent: { ended: { at: 1 } } }, 'consent'],
    [{ auth: consentAuth, hasToken: false, consent: { ended: null } }, undefined],
  ])('%j lacks %s', (of, access) => {
    expect(accessOf(of).access).toBe(access);
    const told = found(
      'secrets',
      seen({ targets: [{ id: 't', name: 'T', operations: [operation], ...accessOf(of) }] }),
    );
    // A target may take anybody; consent is always needed.
    expect(told.map(each => each.stops)).toEqual(access ? [access === 'consent'] : []);
  });
});

describe('what targets would refuse, over the samples', () => {
  const troubled = (code: string, said: string[], ways = said.length): Seen => ({
    ...seen(),
    rehearsal: {
      samples: 9,
      summary: {
        ...summary(9, 7),
        callIds: ['a'],
        calls: [
          {
            going: 9,
            sendable: 7,
            missing: [],
            lines: [
              {
                lineId: 'l',
                fine: 7,
                blank: 0,
                trouble: 2,
                troubles: [{ code, message: said[0]!, ways, said, samples: [1, 2] }],
              },
            ],
            goes: new Uint8Array(),
            sends: new Uint8Array(),
            states: new Uint8Array(),
          },
        ],
      },
    },
  });
  test.each([
    [
      'options',
      'target.option',
      ['site does not list “AB-09”.', 'site does not list “AB-10”.'],
      'site does not list “AB-09”; site does not list “AB-10”: in 2 samples.',
    ],
    ['kinds', 'target.type', ['site takes a number; “x” is not.'], 'site takes a number; “x” is not: in 2 samples.'],
    [
      'lengths',
      'target.length',
      ['site takes 2 characters; this has 5.'],
      'site takes 2 characters; this has 5: in 2 samples.',
    ],
  ])('%s', (id, code, said, words) => {
    const [finding] = found(id, troubled(code, said));
    expect(finding).toMatchObject({ tone: 'look', stops: false, words, at: { callId: 'a', lineId: 'l' } });
    expect(finding!.remedy).toBeTruthy();
    expect(found(id, troubled('another', said))).toEqual([]);
    expect(found(id, seen())).toEqual([]);
  });
  test('of many the first are told', () =>
    expect(found('options', troubled('target.option', ['a.', 'b.'], 9))[0]!.words).toBe(
      'a; b; and 7 more: in 2 samples.',
    ));
});

describe('what may not be there when it is needed', () => {
  const after = (first: Partial<Call>, more: Partial<Call['lines'][number]> = {}) =>
    seen({
      definition: definition({
        calls: [
          call(first),
          call({
            id: 'b',
            lines: [{ ...newLine('m', 'site'), source: { from: 'field', field: '@answer/a/id' }, ...more }],
          }),
        ],
      }),
    });
  test.each<[string, Partial<Call>, RegExp | null]>([
    [
      'a call with a condition',
      { condition: { all: [{ field: 'x', is: 'blank', values: [], not: true }] } },
      /condition of “Create” is not met/,
    ],
    ['a call that repeats', { repeat: 'photos' }, /“Create” has nothing to repeat for/],
    ['a call that may be passed over', { whenFailed: 'passOver' }, /failed and was skipped/],
    ['a look-up that may find nothing', { find: { ...lookUp, whenNone: 'leave' } }, /found no record/],
    ['a call that is always made', {}, null],
    ['a look-up that makes what it does not find', { find: lookUp }, null],
  ])('%s', (_, first, words) => {
    const findings = found('answers', after(first));
    expect(findings.map(each => [each.tone, each.at])).toEqual(words ? [['look', { callId: 'b', lineId: 'm' }]] : []);
    if (words) expect(findings[0]!.words).toMatch(words);
  });
  test('a line that stops over a blank says so by itself', () =>
    expect(found('answers', after({ whenFailed: 'passOver' }, { whenBlank: 'stop' }))).toEqual([]));
});

describe('what look-ups look for', () => {
  const finder: Operation = { ...operation, id: 'find', method: 'GET', fields: [targetField('mail')] };
  const by: Line = { ...newLine('f', 'mail'), source: { from: 'field', field: 'mail' } };
  const update = { operationId: 'find', to: 'mail', from: '/id' };
  const of = (more: Partial<Call> = {}) =>
    definition({ calls: [call({ find: { ...lookUp, line: by, update }, ...more })] });
  const targets = [{ id: 't', name: 'Register', operations: [operation, finder] }];
  const said = (mail: string | null) => ({
    form: null,
    id: null,
    submittedAt: null,
    files: [],
    questions: [],
    meta: {},
    fields:
      mail === null ? [] : [{ key: 'mail', label: 'Mail', kind: 'email' as const, value: mail, pointer: '/mail' }],
  });
  const samples = ['a@x.org', 'b@x.org', 'a@x.org', null].map(said);
  test('samples that look for the same record are counted; blanks look for none', () => {
    const sought = soughtIn(of(), targets, samples);
    expect(sought).toEqual([{ where: '“Create”', samples: 3, same: 2, example: 'a@x.org', isOverwritten: true }]);
    expect(found('sought', seen({ sought }))[0]).toMatchObject({
      tone: 'goes',
      words: expect.stringContaining('2 of 3 samples look up the same record as another sample, such as “a@x.org”'),
    });
  });
  test('a record that is left as it is once it is found is not overwritten; what is only looked up says nothing', () => {
    const left = soughtIn(of({ find: { ...lookUp, line: by, update: null } }), targets, samples);
    expect(found('sought', seen({ sought: left }))[0]).toMatchObject({
      remedy: expect.stringContaining('the others find it and leave it as it is'),
    });
    expect(soughtIn(of({ find: { ...lookUp, line: by, update: null, whenNone: 'leave' } }), targets, samples)).toEqual(
      [],
    );
  });
  test('nothing is said where all differ, where nothing is looked up, or of what is not known before', () => {
    const sought = soughtIn(of(), targets, samples.slice(0, 2));
    expect(found('sought', seen({ sought }))).toEqual([]);
    expect(soughtIn(definition(), targets, samples)).toEqual([]);
    const later = {
      ...lookUp,
      line: { ...newLine('f', 'mail'), source: { from: 'field' as const, field: '@answer/z/id' } },
    };
    expect(soughtIn(of({ find: later }), targets, samples)).toEqual([]);
  });
});

describe('what may be made twice', () => {
  const once = (more: Partial<Call>, target: object = { knowsKeys: false }, of: Partial<Operation> = {}) =>
    found(
      'once',
      seen({
        definition: definition({ calls: [call(more)] }),
        targets: [{ id: 't', name: 'Register', operations: [{ ...operation, ...of }], ...target }],
      }),
    ).map(each => each.tone);
  test.each<[string, ReturnType<typeof once>, string[]]>([
    ['a POST that nothing is known of', once({}), ['goes']],
    ['one to a target that knows keys', once({}, { knowsKeys: true }), []],
    ['one that looks first', once({ find: lookUp }), []],
    ['a PUT (RFC 9110 §9.2.2)', once({}, undefined, { method: 'PUT' }), []],
    ['one that only reads', once({}, undefined, { reads: true }), []],
  ])('%s', (_, tones, expected) => expect(tones).toEqual(expected));
});

describe('personal data', () => {
  const of = (takesPersonal: boolean | undefined, kind: 'email' | 'number') =>
    found(
      'personal',
      seen({
        targets: [
          { id: 't', name: 'Register', operations: [operation], ...(takesPersonal !== undefined && { takesPersonal }) },
        ],
        questions: [{ key: 'site', kind }],
      }),
    );
  test('is told where nobody said that it may go there, and leads to the line', () =>
    expect(of(false, 'email')).toMatchObject([
      {
        tone: 'look',
        words: expect.stringContaining('Register is not allowed to receive it'),
        at: { callId: 'a', lineId: 'l' },
      },
    ]));
  test.each([
    ['where somebody said so', of(true, 'email')],
    ['of what tells nothing of people', of(false, 'number')],
    ['where that was not looked at', of(undefined, 'email')],
  ])('nothing is said %s', (_, findings) => expect(findings).toEqual([]));
});

describe('time', () => {
  const now = Date.parse('2026-11-04T08:00:00Z');
  const ends = (endsAt: number) =>
    found('secrets-last', seen({ now, targets: [{ id: 't', name: 'Register', operations: [operation], endsAt }] }));
  test.each<[string, number, string[]]>([
    ['one that ended', -1, ['trouble']],
    ['one that ends today', 3_600_000, ['look']],
    ['one that ends within two weeks', 13 * 86_400_000, ['look']],
    ['one that lasts', 15 * 86_400_000, []],
  ])('a secret: %s', (_, after, tones) => expect(ends(now + after).map(each => each.tone)).toEqual(tones));
  test.each<[number | null, number]>([
    [null, 0],
    [now - 59 * 86_400_000, 0],
    [now - 61 * 86_400_000, 1],
  ])('samples from %s', (newestAt, count) => expect(found('samples', seen({ now, newestAt }))).toHaveLength(count));
  test('a token’s end is known where a token is shown', () => {
    const given = {
      auth: { kind: 'bearer' as const },
      consent: null,
      hasToken: true,
      tokenEndsAt: '2026-11-04T08:00:00Z',
    };
    expect(accessOf(given)).toEqual({ endsAt: now });
    expect(accessOf({ ...given, tokenEndsAt: null })).toEqual({});
  });
});
