import { causeOf, type ToldChange } from '.';

const told = (id: string, what: ToldChange['what'], more: Partial<ToldChange> = {}): ToldChange => ({
  id,
  subject: 'target',
  subjectId: 't',
  what,
  state: 'open',
  firstAt: 1,
  ...more,
});
const renamed = (field: string, now: string) => ({ change: 'field-renamed', field, now });
const moved = (was: string, now: string) => ({ change: 'operation-moved', was, now });
const gone = { change: 'field-gone', field: '/site' };

test.each<[string, ToldChange['what'], ToldChange['what'], boolean]>([
  ['a field of several operations', gone, gone, true],
  ['two fields', gone, { ...gone, field: '/ph' }, false],
  ['two ways in which a field is otherwise', gone, { ...gone, change: 'required' }, false],
  ['a field with two new names', renamed('/site', '/place'), renamed('/site', '/spot'), false],
  [
    'fields in one that was renamed',
    renamed('/postal/town', '/address/town'),
    renamed('/postal/street', '/address/street'),
    true,
  ],
  ['two fields in one', renamed('/postal/town', '/postal/city'), renamed('/postal/street', '/postal/road'), false],
  [
    'a collection that moved',
    moved('GET /contacts', 'GET /people'),
    moved('PATCH /contacts/{id}', 'PATCH /people/{id}'),
    true,
  ],
  ['a new base path', moved('GET /a', 'GET /v2/a'), moved('POST /b/c', 'POST /v2/b/c'), true],
  ['two paths', moved('GET /a', 'GET /x'), moved('GET /b', 'GET /y'), false],
  ['one with another method', moved('GET /a', 'GET /x'), moved('PUT /a', 'PATCH /x'), false],
  ['what is about no field', { change: 'operation-gone' }, { change: 'operation-gone' }, false],
])('%s: one cause', (_, one, other, is) => expect(causeOf(told('a', one)) === causeOf(told('b', other))).toBe(is));

test.each<[string, Partial<ToldChange>]>([
  ['of another target', { subjectId: 'u' }],
  ['seen at another reading', { firstAt: 2 }],
  ['that is settled', { state: 'settled' }],
  ['of a form', { subject: 'form' }],
])('the same %s is another cause', (_, more) =>
  expect(causeOf(told('a', gone))).not.toBe(causeOf(told('b', gone, more))),
);
