import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { scopeOf, type Scope } from '../scope';
import type { Json, Submission } from '../submission';
import type { Operation, TargetField } from '../target';
import { targetField } from '../testing';
import {
  bodyText,
  compileCall,
  compileLine,
  copiesIn,
  copyLink,
  indented,
  safeFileName,
  stoppers,
  wireText,
  withCopyLinks,
} from '.';
import { newLine, type Line } from '../route';

const field = (key: string, more: Partial<TargetField> = {}): TargetField =>
  targetField(key, { pointer: `/values/${key}`, ...more });
const scope = (answers: Record<string, Json>): Scope => scopeOf(submission(answers));
const submission = (answers: Record<string, Json>): Submission => ({
  form: null,
  id: null,
  submittedAt: null,
  meta: {},
  files: [],
  questions: [],
  fields: Object.entries(answers).map(([key, value]) => ({ key, label: key, kind: 'text', value, pointer: `/${key}` })),
});
const from = (key: string, more: Partial<Line> = {}): Line => ({
  ...newLine('l', 'f'),
  source: { from: 'field', field: key },
  ...more,
});

describe('what a line gives', () => {
  const number = { id: 'number.read', params: {} };
  test.each<[string, Line, Partial<TargetField>, Record<string, Json>, object]>([
    ['a value', from('q'), {}, { q: 'x' }, { state: 'fine', value: 'x', stops: false }],
    ['a blank, left out', from('q'), {}, {}, { state: 'blank', value: undefined, stops: false }],
    ['a blank, as null', from('q', { whenBlank: 'null' }), {}, {}, { state: 'blank', value: null }],
    ['a blank, as empty text', from('q', { whenBlank: 'empty' }), {}, { q: ' ' }, { state: 'blank', value: '' }],
    [
      'a blank, with a fallback',
      from('q', { whenBlank: 'fallback', fallback: 'none' }),
      {},
      {},
      { state: 'fine', value: 'none' },
    ],
    [
      'a blank that stops',
      from('q', { whenBlank: 'stop' }),
      {},
      {},
      { state: 'trouble', stops: true, problem: { code: 'line.blank' } },
    ],
    [
      'a blank for a required field',
      from('q'),
      { required: true },
      {},
      { state: 'trouble', stops: true, problem: { code: 'line.blank' } },
    ],
    [
      'a problem that stops',
      from('q', { cleaning: [number] }),
      { type: 'number' },
      { q: 'x' },
      { state: 'trouble', stops: true, value: undefined },
    ],
    [
      'a problem, left out',
      from('q', { cleaning: [number], whenProblem: 'leaveOut' }),
      { type: 'number' },
      { q: 'x' },
      { state: 'trouble', stops: false, value: undefined },
    ],
    [
      'a problem left out of a required field stops',
      from('q', { cleaning: [number], whenProblem: 'leaveOut' }),
      { type: 'number', required: true },
      { q: 'x' },
      { stops: true },
    ],
    [
      'a problem, with a fallback',
      from('q', { cleaning: [number], whenProblem: 'fallback', fallback: 0 }),
      { type: 'number' },
      { q: 'x' },
      { state: 'trouble', stops: false, value: 0 },
    ],
    [
      'a fallback the target would refuse',
      from('q', { cleaning: [number], whenProblem: 'fallback', fallback: 'x' }),
      { type: 'number' },
      { q: 'x' },
      { stops: true, problem: { code: 'target.type' } },
    ],
    [
      'a value the target would refuse',
      from('q'),
      { type: 'number' },
      { q: '7' },
      { state: 'trouble', problem: { code: 'target.type' } },
    ],
    [
      'a constant',
      { ...from('q'), source: { from: 'constant', value: 'web form' } },
      {},
      {},
      { state: 'fine', value: 'web form' },
    ],
    [
      'a text with answers',
      { ...from('q'), source: { from: 'text', segments: [{ field: 'a' }, { text: ', seen by ' }, { field: 'b' }] } },
      {},
      { a: ['Foam', 'Litter'], b: 'Wen' },
      { value: 'Foam, Litter, seen by Wen' },
    ],
    [
      'a text whose answers are all blank',
      { ...from('q'), source: { from: 'text', segments: [{ text: 'Dear ' }, { field: 'b' }] } },
      {},
      {},
      { state: 'blank' },
    ],
  ])('%s', (_, line, more, answers, outcome) =>
    expect(compileLine(line, field('f', more)).outcome(scope(answers))).toMatchObject(outcome),
  );

  test('a line for a field the target has no more is in trouble', () =>
    expect(compileLine(from('q'), null).outcome(scope({ q: 'x' }))).toMatchObject({
      state: 'trouble',
      problem: { code: 'target.noField' },
    }));
});

describe('what a call makes', () => {
  const operation: Operation = {
    id: 'o',
    label: 'O',
    method: 'POST',
    path: '/records',
    fields: [field('site', { required: true }), field('no', { readOnly: true, required: true }), field('note')],
  };
  const line = (to: string, key: string): Line => ({
    ...newLine(`line-${to}`, to),
    source: { from: 'field', field: key },
  });
  const call = (lines: Line[]) =>
    compileCall({ id: 'c', targetId: 't', operationId: 'o', lines }, operation, 'https://register.example.org/v1/');

  test('a request as data, each value with the line it came from', () => {
    const planned = call([line('site', 's'), line('note', 'n')]).plan(scope({ s: 'AB-07', n: 'two\nlines' }));
    expect(planned).toMatchObject({
      sendable: true,
      missing: [],
      request: {
        method: 'POST',
        url: 'https://register.example.org/v1/records',
        body: { values: { site: 'AB-07', note: 'two\nlines' } },
        origins: { '/values/site': 'line-site', '/values/note': 'line-note' },
      },
    });
    // As it goes out it is compact, whatever people are shown.
    expect(bodyText(planned.request)).toBe('{"values":{"site":"AB-07","note":"two\\nlines"}}');
    expect(wireText(planned.request, [['x-extra', '1']])).toBe(
      `POST /v1/records HTTP/1.1\nhost: register.example.org\ncontent-type: application/json\naccept: application/json\nx-extra: 1\n\n${bodyText(planned.request, 2)}`,
    );
  });

  test('a required field that no line fills stops it, a read-only one does not', () => {
    const planned = call([{ ...newLine('line-site', 'site') }, line('note', 'n')]).plan(scope({ n: 'x' }));
    expect(planned.sendable).toBe(false);
    expect(stoppers(planned)).toMatchObject([{ code: 'line.unmapped', message: expect.stringContaining('site') }]);
  });

  test('the same submission gives the same request', () => {
    const compiled = call([line('site', 's')]);
    expect(compiled.plan(scope({ s: 'x' })).request).toEqual(compiled.plan(scope({ s: 'x' })).request);
  });
});

// RFC 6570 §3.2.2 (simple expansion), RFC 3986 §3.4 and RFC 9110 §5.5: what goes into the address and the headers.
test('parameters go into the path, the query and the headers, and can’t get out of them', () => {
  const parameter = (key: string, place: 'path' | 'query' | 'header'): TargetField => ({
    ...field(key),
    in: place,
    pointer: key,
  });
  const constant = (to: string, value: Json): Line => ({ ...newLine(to, to), source: { from: 'constant', value } });
  const call = compileCall(
    {
      id: 'c',
      targetId: 't',
      operationId: 'o',
      lines: [
        constant('id', 'a/b?c#d'),
        constant('tag', ['wet & dry', 'ü']),
        constant('X-Note', 'one\r\nX-Evil: two'),
        constant('name', 'Wen'),
      ],
    },
    {
      id: 'o',
      label: 'Update',
      method: 'PUT',
      path: '/contacts/{id}',
      body: 'urlencoded',
      fields: [
        parameter('id', 'path'),
        { ...parameter('tag', 'query'), type: 'choices' },
        parameter('X-Note', 'header'),
        { ...field('name'), pointer: '/contact/name' },
      ],
    },
    'https://roster.example.org/v1/',
  );
  const { request } = call.plan(scope({}));
  expect(request.url).toBe('https://roster.example.org/v1/contacts/a%2Fb%3Fc%23d?tag=wet%20%26%20dry&tag=%C3%BC');
  expect(request.headers).toContainEqual(['X-Note', 'one X-Evil: two']);
  expect(request.headers).toContainEqual(['content-type', 'application/x-www-form-urlencoded']);
  expect(bodyText(request)).toBe('contact%5Bname%5D=Wen');
});

test('what has no body sends none', () => {
  const call = compileCall(
    { id: 'c', targetId: 't', operationId: 'o', lines: [] },
    { id: 'o', label: 'Look', method: 'GET', path: '/contacts', fields: [] },
    'https://roster.example.org',
  );
  const { request } = call.plan(scope({}));
  expect([bodyText(request), request.headers]).toEqual(['', [['accept', 'application/json']]]);
});

describe('bodies of other kinds', () => {
  const file = { name: '../a "b".gif', url: null, type: 'image/gif', size: 9 };
  const planOf = (
    body: Operation['body'],
    fields: TargetField[],
    answers: Record<string, Json>,
    more: Partial<Operation> = {},
  ) => {
    const operation: Operation = { id: 'o', label: 'O', method: 'POST', path: '/r', body, fields, ...more };
    const lines = fields.map(each => ({ ...from(each.key), id: each.key, to: each.key }));
    return compileCall({ id: 'c', targetId: 't', operationId: 'o', lines }, operation, 'https://a.example.org').plan(
      scopeOf({ ...submission(answers), files: [{ ...file, field: 'f' }] }),
    ).request;
  };
  const at = (key: string, more: Partial<TargetField> = {}) => targetField(key, { pointer: `/${key}`, ...more });
  // XML 1.0: read back by a parser that is not the writer; names and characters that it has no way to hold are replaced (§2.2, §2.3).
  test('XML of any depth', () => {
    const text = bodyText(
      planOf(
        'xml',
        [at('note'), targetField('town', { pointer: '/postal/town' }), at('tags', { type: 'choices' }), at('2nd one')],
        {
          note: 'a < b & "c"\u0007\nd',
          town: 'Föhre',
          tags: ['x', 'y'],
          '2nd one': '1',
        },
        { root: 'contact' },
      ),
    );
    expect(XMLValidator.validate(text)).toBe(true);
    expect(new XMLParser({ parseTagValue: false, trimValues: false }).parse(text)).toMatchObject({
      contact: { note: 'a < b & "c"\nd', postal: { town: 'Föhre' }, tags: ['x', 'y'], _2nd_one: '1' },
    });
  });
  test('a form in parts names its files, without folders or quotes; a list is a part for each', () => {
    const plan = planOf('multipart', [at('tags', { type: 'choices' }), at('f', { type: 'file' })], {
      tags: ['x', 'y'],
      f: [file],
    });
    expect(plan.files).toMatchObject([{ pointer: '/f', name: 'a b.gif', as: 'content', file }]);
    expect(bodyText(plan).match(/(file)?name="[^"]*"/g)).toEqual([
      'name="tags"',
      'name="tags"',
      'name="f"',
      'filename="a b.gif"',
    ]);
  });
  test('plain text, a file as the whole, base64 inside a text', () => {
    expect(bodyText(planOf('text', [targetField('body', { pointer: '' })], { body: 'just words' }))).toBe('just words');
    const raw = planOf('raw', [targetField('body', { pointer: '', type: 'file' })], { body: file });
    expect([bodyText(raw), raw.files[0]!.pointer]).toEqual(['‹a b.gif›', '']);
    const inside = planOf('json', [targetField('f', { pointer: '/f/content', type: 'base64' })], { f: file });
    expect(inside).toMatchObject({ body: { f: { content: '‹a b.gif›' } }, files: [{ as: 'base64' }] });
  });
  test.each([
    ['a.gif', 'a.gif'],
    ['../../etc/passwd', 'passwd'],
    ['C:\\temp\\a.gif', 'a.gif'],
    ['..', 'file'],
    ['.htaccess', 'htaccess'],
    ['a\r\nb".gif', 'ab.gif'],
    ['cod\u202egpj.exe', 'codgpj.exe'],
    ['', 'file'],
  ])('the file name %j is sent as %j', (name, safe) => expect(safeFileName(name)).toBe(safe));
});

test('a text in HTML escapes its answers and keeps their line breaks', () => {
  const source = { from: 'text' as const, html: true, segments: [{ text: '<p>' }, { field: 'q' }, { text: '</p>' }] };
  const line = compileLine({ ...from('q'), source }, field('f'));
  expect(line.outcome(scope({ q: '<b>1 & 2</b>\r\n"x"' })).value).toBe(
    '<p>&lt;b&gt;1 &amp; 2&lt;/b&gt;<br>\n&quot;x&quot;</p>',
  );
});

test('links to copies stand for files until they are made, and end where they end', () => {
  const [one, two] = [copyLink(0, 'a b.gif'), copyLink(12, 'c/d.gif')];
  const text = `See ${one}. And <a href="${two}">this</a>, ${one}`;
  expect(copiesIn(text)).toEqual([0, 12]);
  expect(withCopyLinks(text, index => `L${index}`)).toBe('See L0. And <a href="L12">this</a>, L0');
});

describe('files that are none of the submission’s own', () => {
  const outcomeOf = (file: Json, more: Partial<Submission> = {}) => {
    const line = compileLine({ ...from('f'), id: 'f', to: 'f' }, targetField('f', { type: 'file' }));
    return line.outcome(scopeOf({ ...submission({ f: file }), ...more }));
  };
  const file = { name: 'a.pdf', url: null, type: null, size: null };
  test.each<[string, Json, string]>([
    ['one with an address', { ...file, url: 'https://files.example.org/a' }, 'fine'],
    ['one that is had from a target', { ...file, url: 'via:t-1/files/7' }, 'fine'],
    ['one without either', file, 'trouble'],
    ['one of several', [{ ...file, url: 'https://files.example.org/a' }, file], 'trouble'],
    ['one with a place and no address', { ...file, url: '/a' }, 'trouble'],
  ])('%s: seen before it is sent', (_, value, state) => expect(outcomeOf(value).state).toBe(state));
  test('one of the submission’s needs no address', () =>
    expect(outcomeOf(file, { files: [{ ...file, field: 'q' }] }).state).toBe('fine'));
  test('what is fetched has no link of its own', () => {
    const line = compileLine({ ...from('f'), id: 'f', to: 'f' }, targetField('f', { type: 'attachments' }));
    expect(line.outcome(scopeOf(submission({ f: [{ ...file, url: 'via:t-1/files/7' }] }))).state).toBe('trouble');
  });
});

test.each([
  ['{"a":[1,{"b":"c"}]}', '{\n  "a": [\n    1,\n    {\n      "b": "c"\n    }\n  ]\n}'],
  ['{"a": 1}', '{"a": 1}'],
  ['{"id":12345678901234567890}', '{"id":12345678901234567890}'],
  ['{"a":', '{"a":'],
  ['site=AB-07', 'site=AB-07'],
])('for people %s is indented where that changes nothing', (body, shown) => expect(indented(body)).toBe(shown));
