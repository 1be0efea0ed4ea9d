import type { FindView, FormView, IntakeView, SamplePage, SamplesView, ThingsView } from '@grammata/contract';
import { unpack } from '@grammata/core/sample';
import { eventually, startServer, type Client } from '../testing/running';

// Samples are had in pages: whole to look at, by column for the workbench; what comes meanwhile is neither missed nor told twice.

let client: Client;
let intake: IntakeView;
let formId: string;

const send = async (numbers: number[]) => {
  for (const n of numbers)
    await fetch(`${client.url}${new URL(intake.address).pathname}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ submission_id: `s${n}`, site: `AB-${n}`, note: n % 2 ? 'odd' : 'even' }),
    });
};
const get = async <T>(place: string) => (await client.call<T>('GET', `/forms/${formId}/${place}`)).json;
const recorded = (count: number) =>
  eventually(
    async () => (await client.call<IntakeView>('GET', `/intakes/${intake.id}`)).json.forms[0],
    form => form?.submissions === count,
  );
const idsIn = (page: SamplePage) => page.rows.map(row => unpack(page, row).id);
const named = (from: number, to: number) =>
  Array.from({ length: Math.abs(to - from) + 1 }, (_, at) => `s${from + Math.sign(to - from) * at}`);

beforeEach(async () => {
  client = await startServer();
  intake = (await client.call<IntakeView>('POST', '/intakes', { name: 'Reports' })).json;
  await send(Array.from({ length: 12 }, (_, n) => n));
  formId = (await recorded(12))!.id;
});
afterEach(() => client.stop());

test('by column, the newest first, page after page', async () => {
  const seen: (string | null)[] = [];
  let query = 'columns?limit=5';
  for (let pages = 1; ; pages++) {
    const page = await get<SamplePage>(query);
    expect(page.total).toBe(12);
    expect(page.columns.map(each => each.key)).toEqual(expect.arrayContaining(['site', 'note']));
    seen.push(...idsIn(page));
    if (page.next === null) {
      expect(pages).toBe(3);
      break;
    }
    query = `columns?limit=5&before=${page.next}`;
  }
  expect(seen).toEqual(named(11, 0));
});

test('what came since the newest, each once, also when it comes between two pages', async () => {
  const first = await get<SamplePage>('columns?limit=5');
  await send([12, 13]);
  await recorded(14);
  const since = await get<SamplePage>(`columns?since=${first.newest}`);
  expect([idsIn(since), since.next]).toEqual([['s12', 's13'], null]);
  const nothing = await get<SamplePage>(`columns?since=${since.newest}`);
  expect([idsIn(nothing), nothing.newest]).toEqual([[], since.newest]);
  // What was asked for before is not moved by what came.
  expect(idsIn(await get<SamplePage>(`columns?limit=5&before=${first.next}`))).toEqual(named(6, 2));
});

test('variants come with the first page only, and are told apart', async () => {
  const { samples } = await get<SamplesView>('samples?limit=1');
  const { json } = await client.call<{ id: string }>('POST', `/forms/${formId}/variants`, {
    name: 'no note',
    submission: { ...samples[0]!.submission, fields: samples[0]!.submission.fields.slice(0, 1) },
  });
  const first = await get<SamplePage>('columns?limit=5');
  expect(first.rows.map(row => row.isVariant)).toEqual([true, false, false, false, false, false]);
  expect([first.rows[0]!.sampleId, first.rows[0]!.name, first.total]).toEqual([json.id, 'no note', 12]);
  const next = await get<SamplePage>(`columns?limit=50&before=${first.next}`);
  expect(next.rows.some(row => row.isVariant)).toBe(false);
  // Looked for, they are found like the others; those that do not say so are not.
  const found = await get<SamplesView>('samples?search=no%20note');
  expect(found.samples.map(each => each.isVariant)).toEqual([true]);
});

test('whole ones are searched, in pages', async () => {
  const odd = await get<SamplesView>('samples?search=ODD&limit=4');
  expect([odd.samples.map(each => each.submission.id), odd.total]).toEqual([['s11', 's9', 's7', 's5'], 6]);
  const more = await get<SamplesView>(`samples?search=ODD&limit=4&before=${odd.next}`);
  expect([more.samples.map(each => each.submission.id), more.next]).toEqual([['s3', 's1'], null]);
  expect(odd.samples[0]!.submission.fields[0]!.pointer).not.toBe('');
});

const find = async (search: string) =>
  (await client.call<FindView>('GET', `/find?${new URLSearchParams({ search })}`)).json;

test('anywhere, with the name of the form and a few answers; words in any order', async () => {
  expect((await find('ab-7')).submissions).toMatchObject([{ formName: 'Reports', about: 'AB-7 · odd' }]);
  expect((await find('odd ab-7')).submissions).toHaveLength(1);
  expect((await find('even ab-7')).submissions).toEqual([]);
  for (const short of ['a', '']) expect(await find(short)).toEqual({ questions: [], submissions: [] });
});

test('forms and questions get names; what they came with stays known, and is found', async () => {
  const rename = (body: object) => client.call<FormView>('PATCH', `/forms/${formId}`, body);
  const question = (body: object) => client.call<FormView>('PUT', `/forms/${formId}/questions`, body);
  expect((await rename({ name: '  Pond reports ' })).json).toMatchObject({ name: 'Pond reports', ownName: 'Reports' });
  expect((await rename({ name: 'Basin reports' })).json).toMatchObject({ name: 'Basin reports', ownName: 'Reports' });
  const { json } = await question({ key: 'note', name: 'Parity' });
  expect(json.schema.fields.find(each => each.key === 'note')).toMatchObject({ label: 'Parity', asked: 'Note' });
  for (const words of ['parity', 'note', 'PARITY note'])
    expect((await find(words)).questions).toEqual([
      { formId, formName: 'Basin reports', key: 'note', label: 'Parity' },
    ]);
  // More submissions change what is known of the questions, and not their names.
  await send(Array.from({ length: 45 }, (_, n) => 100 + n));
  await recorded(57);
  expect((await get<FormView>('')).schema.fields.find(each => each.key === 'note')).toMatchObject({ label: 'Parity' });
  const { json: things } = await client.call<ThingsView>('GET', '/things');
  expect(things.forms).toMatchObject([{ name: 'Basin reports', ownName: 'Reports', intakeName: 'Reports' }]);

  expect((await question({ key: 'note', name: '' })).json.schema.fields.find(each => each.key === 'note')).toEqual(
    expect.not.objectContaining({ asked: expect.anything() }),
  );
  expect((await rename({ name: '' })).json).toMatchObject({ name: 'Reports', ownName: null });
  expect((await question({ key: 'nobody', name: 'x' })).status).toBe(404);
  expect((await question({ key: 'note', name: 'x'.repeat(301) })).json).toMatchObject({ errors: [{ field: 'name' }] });
});

test('an empty form, and one that is not there', async () => {
  const other = (await client.call<IntakeView>('POST', '/intakes', { name: 'Other' })).json;
  expect(other.forms).toEqual([]);
  expect((await client.call('GET', '/forms/none/columns')).status).toBe(404);
  expect((await client.call('GET', '/forms/none/samples')).status).toBe(404);
});

test.each(['nonsense', '1.', '.x', '99999999999999999999.x', "1.'; drop table forms"])(
  'a place that is none (%s) is the beginning',
  async place => {
    const page = await get<SamplePage>(`columns?limit=2&before=${encodeURIComponent(place)}`);
    expect(idsIn(page)).toEqual(['s11', 's10']);
  },
);
