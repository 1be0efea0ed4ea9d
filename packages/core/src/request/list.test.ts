import fc from 'fast-check';
import { scopeOf } from '../scope';
import {
  newLine,
  keysOf,
  referenceFaults,
  ROUTE_FORMAT,
  usualTerms,
  type ListEntry,
  type ListPart,
  type PartSource,
} from '../route';
import { sourceWords } from '../sheet';
import type { Json, Submission } from '../submission';
import { targetField } from '../testing';
import { compileLine } from '.';

const answered = (values: Record<string, Json>): Submission => ({
  form: null,
  id: 'S-1',
  submittedAt: null,
  meta: {},
  files: [],
  questions: [],
  fields: Object.entries(values).map(([key, value]) => ({ key, label: key, kind: 'text', value, pointer: `/${key}` })),
});
const submission = answered({
  site: 'Mill Race',
  ph: '7,4',
  blank: '',
  signs: ['Foam', 'Oil'],
  kits: [
    { kit: 'Strip set', amount: '2' },
    { kit: '', amount: '' },
    { kit: 'Net', amount: '' },
  ],
});

const answer = (field: string): PartSource => ({ from: 'field', field });
const fixed = (value: Json): PartSource => ({ from: 'constant', value });
const part = (name: string, source: PartSource | null, ...cleaning: ListPart['cleaning']): ListPart => ({
  name,
  source,
  cleaning,
});
const entry = (as: ListEntry['as'], parts: ListPart[], each?: string): ListEntry => ({
  id: `e${parts.length}`,
  as,
  parts,
  ...(each && { each }),
});
const lineOf = (...entries: ListEntry[]) => ({ ...newLine('l', 'custom'), source: { from: 'list' as const, entries } });
const made = (...entries: ListEntry[]) =>
  compileLine(lineOf(...entries), targetField('custom', { type: 'json' })).outcome(scopeOf(submission));

test.each<[string, ListEntry[], Json | undefined]>([
  ['pairs of fixed names and answers', [entry('object', [part('name', fixed('site')), part('value', answer('site'))]), entry('object', [part('name', fixed('ph')), part('value', answer('ph'))])], [{ name: 'site', value: 'Mill Race' }, { name: 'ph', value: '7,4' }]],
  ['a pair whose answer is blank is left out', [entry('object', [part('name', fixed('site')), part('value', answer('blank'))]), entry('object', [part('name', fixed('ph')), part('value', answer('ph'))])], [{ name: 'ph', value: '7,4' }]],
  ['identifiers that are numbers stay numbers', [entry('object', [part('id', fixed(7)), part('value', answer('site'))])], [{ id: 7, value: 'Mill Race' }]],
  ['a row by position, its blank cells empty', [entry('row', [part('', answer('site')), part('', answer('blank')), part('', answer('ph'))])], [['Mill Race', '', '7,4']]],
  ['several rows', [entry('row', [part('', fixed('Site')), part('', answer('site'))]), entry('row', [part('', fixed('pH')), part('', answer('ph'))])], [['Site', 'Mill Race'], ['pH', '7,4']]],
  ['single values, the blank one left out', [entry('value', [part('', answer('site'))]), entry('value', [part('', answer('blank'))])], ['Mill Race']],
  ['line items of a table question', [entry('object', [part('sku', answer('@item/kit')), part('amount', answer('@item/amount')), part('from', answer('site'))], 'kits')], [{ sku: 'Strip set', amount: '2', from: 'Mill Race' }, { sku: 'Net', from: 'Mill Race' }]],
  ['one object for each choice, with its number', [entry('object', [part('tag', answer('@item')), part('no', answer('@itemNumber'))], 'signs')], [{ tag: 'Foam', no: 1 }, { tag: 'Oil', no: 2 }]],
  ['entries that stand once beside those for each', [entry('value', [part('', fixed('report'))]), entry('value', [part('', answer('@item'))], 'signs')], ['report', 'Foam', 'Oil']],
  ['for each of nothing, none', [entry('value', [part('', answer('@item'))], 'blank')], undefined],
  ['an object of what is always the same', [entry('object', [part('type', fixed('report'))])], [{ type: 'report' }]],
  ['a part that nobody filled', [entry('object', [part('type', null), part('value', answer('site'))])], [{ value: 'Mill Race' }]],
  ['a text with answers in it', [entry('object', [part('note', { from: 'text', segments: [{ text: 'At ' }, { field: 'site' }] })])], [{ note: 'At Mill Race' }]],
  ['no entry at all', [], undefined],
])('%s', (_, entries, value) => expect(made(...entries).value).toEqual(value)); // prettier-ignore

describe('parts are cleaned like lines', () => {
  test('each by its own steps', () => {
    const outcome = made(
      entry('object', [
        part('name', fixed('ph')),
        part('value', answer('ph'), { id: 'text.surround', params: { before: 'pH ', after: '' } }),
      ]),
    );
    expect(outcome).toMatchObject({ state: 'fine', value: [{ name: 'ph', value: 'pH 7,4' }] });
  });
  test('what can’t be cleaned troubles the line, and stops it as the line says', () => {
    const unknown = entry('object', [part('value', answer('site'), { id: 'no.such.step', params: {} })]);
    expect(made(unknown)).toMatchObject({ state: 'trouble', stops: true });
    const line = { ...lineOf(unknown), whenProblem: 'leaveOut' as const };
    expect(compileLine(line, targetField('custom', { type: 'json' })).outcome(scopeOf(submission))).toMatchObject({
      state: 'trouble',
      value: undefined,
      stops: false,
    });
  });
});

test('what it draws on is known: answers, what it is written for, and not its own items', () => {
  const line = lineOf(
    entry('object', [part('a', answer('@item/kit')), part('b', answer('site'))], 'kits'),
    entry('value', [part('', answer('@answer/before/id'))]),
  );
  expect(keysOf(line)).toEqual(['kits', 'site', '@answer/before/id']);
  expect(compileLine(line, null).waits).toBe(true);
});

test('an item outside of an entry that is written for each is told', () => {
  const faults = (...entries: ListEntry[]) =>
    referenceFaults({
      format: ROUTE_FORMAT,
      name: 'R',
      condition: { all: [] },
      terms: usualTerms,
      calls: [{ id: 'a', targetId: 't', operationId: 'o', lines: [lineOf(...entries)] }],
    });
  expect(faults(entry('value', [part('', answer('@item'))], 'signs'))).toEqual([]);
  expect(faults(entry('value', [part('', answer('@item'))]))).toHaveLength(1);
});

test('the handover sheet says it in words', () => {
  const labelOf = (key: string) => ({ site: 'Which site?', kits: 'Kits', '@item/kit': 'kit of the item' })[key] ?? key;
  expect(
    sourceWords(
      lineOf(
        entry('object', [part('name', fixed('site')), part('value', answer('site'))]),
        entry('row', [part('', answer('@item/kit'))], 'kits'),
      ),
      labelOf,
    ),
  ).toBe('name = always “site”, value = Which site?; for each of “Kits”: kit of the item');
});

test('whatever is answered, blank entries are left out and nothing of one is lost', () => {
  const value = fc.oneof(
    fc.constantFrom('', ' ', 'x'),
    fc.string(),
    fc.array(fc.string(), { maxLength: 3 }),
    fc.constant(null),
  );
  fc.assert(
    fc.property(fc.array(value, { minLength: 1, maxLength: 5 }), values => {
      const keys = values.map((_, at) => `k${at}`);
      const scope = scopeOf(answered(Object.fromEntries(values.map((each, at) => [`k${at}`, each]))));
      const line = lineOf(...keys.map(key => entry('object', [part('name', fixed(key)), part('value', answer(key))])));
      const { value: list } = compileLine(line, targetField('custom', { type: 'json' })).outcome(scope);
      const names = ((list ?? []) as { name: string }[]).map(each => each.name);
      const filled = keys.filter((_, at) => {
        const each = values[at]!;
        return Array.isArray(each)
          ? each.some(item => item.trim() !== '')
          : typeof each === 'string' && each.trim() !== '';
      });
      expect(filled.every(key => names.includes(key))).toBe(true);
      expect(names.every(name => keys.includes(name))).toBe(true);
    }),
  );
});

describe('a part of a text stands only where its answers do', () => {
  const said = (values: Record<string, Json>, html = false) =>
    compileLine(
      {
        ...newLine('l', 'note'),
        source: {
          from: 'text',
          html,
          segments: [
            { text: 'Seen' },
            { part: [{ text: ' by ' }, { field: 'who' }] },
            { part: [{ text: ' at ' }, { field: 'site' }, { text: ', ' }, { field: 'town' }] },
            { text: '.' },
          ],
        },
      },
      targetField('note'),
    ).outcome(scopeOf(answered(values))).value;
  test.each<[Record<string, Json>, Json | undefined]>([
    [{ who: 'Ada', site: 'Ford', town: 'Elden' }, 'Seen by Ada at Ford, Elden.'],
    [{ who: 'Ada', site: 'Ford', town: '' }, 'Seen by Ada.'],
    [{ who: '', site: 'Ford', town: 'Elden' }, 'Seen at Ford, Elden.'],
    [{ site: 'Ford' }, 'Seen.'],
    [{ who: '', site: '', town: '' }, undefined],
  ])('%j', (values, text) => expect(said(values)).toEqual(text));
  test('answers in it are escaped in HTML', () => expect(said({ who: '<b>' }, true)).toBe('Seen by &lt;b&gt;.'));
});
