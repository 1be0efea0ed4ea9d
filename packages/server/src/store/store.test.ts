import type { Operation } from '@grammata/core/target';
import { aboutSubmission, type FieldKind, type Json, type Submission } from '@grammata/core/submission';
import { ROUTE_FORMAT, type RouteDefinition } from '@grammata/core/route';
import { changeDelivery } from '../testing/deliveries';
import { stored, type Stored } from '../testing/stored';
import { type DeliveryFilter, type DeliveryRow, type Selection } from '.';

let kept: Stored;
beforeEach(() => (kept = stored()));
afterEach(() => kept.close());

const ids = (rows: readonly { id: string }[]) => rows.map(each => each.id);

describe('deliveries are listed', () => {
  let rows: DeliveryRow[];
  beforeEach(() => {
    const [a, b] = [kept.route(), kept.route()];
    const abouts = ['AB-07 · 7.4', 'AB-02 · 100 %', 'AB_07 · odd', 'AB-09', 'AB-10'];
    rows = kept
      .arrive(5)
      .flatMap(({ id }, at) =>
        kept.commands.queue([
          { ...(at < 3 ? a : b), submissionId: id, about: abouts[at]!, createdAt: 1000 + Math.floor(at / 2) },
        ]),
      )
      .map(({ id }) => kept.store.deliveries.byId(id)!);
    changeDelivery(kept.store, rows[1]!.id, { state: 'dead', reason: 'The target refused it.' });
    changeDelivery(kept.store, rows[2]!.id, { state: 'held', reason: 'ph is required' });
    changeDelivery(kept.store, rows[3]!.id, { state: 'dead', reason: null });
  });

  test.each<[string, () => DeliveryFilter, number[]]>([
    ['all, the newest first', () => ({}), [4, 3, 2, 1, 0]],
    ['of a state', () => ({ state: 'dead' }), [3, 1]],
    ['of a route', () => ({ routeId: rows[0]!.routeId }), [2, 1, 0]],
    ['by an answer', () => ({ search: 'ab-07' }), [4, 3, 2, 1, 0]],
    ['by the beginning of one', () => ({ search: 'S3 ab' }), [2]],
    ['by a reason', () => ({ search: 'refused' }), [1]],
    ['by a sign that has a meaning elsewhere', () => ({ search: '%' }), []],
    ['by another', () => ({ search: '"' }), []],
    ['by all of them', () => ({ state: 'dead', routeId: rows[0]!.routeId, search: 'AB' }), [1]],
    ['by nothing but space', () => ({ search: '  ' }), [4, 3, 2, 1, 0]],
    ['none', () => ({ state: 'delivered' }), []],
  ])('%s', (_, filter, places) => {
    const wanted = places.map(at => rows[at]!.id);
    const { rows: listed, total } = kept.store.deliveries.page(filter(), 0, 100);
    expect([ids(listed), total]).toEqual([wanted, wanted.length]);
    // Oldest first, whatever the size of the pages, the same.
    for (const size of [1, 2, 100]) {
      const seen: string[] = [];
      for (let last: DeliveryRow | undefined; ;) {
        const page = kept.store.deliveries.alike(filter(), size, last);
        if (page.length === 0) break;
        seen.push(...ids(page));
        last = page.at(-1);
      }
      expect(seen).toEqual([...wanted].reverse());
    }
  });

  test('and counted by state', () => {
    expect(kept.store.deliveries.counts()).toEqual({ waiting: 2, sending: 0, delivered: 0, held: 1, dead: 2 });
    expect(kept.store.deliveries.counts({ routeId: rows[0]!.routeId })).toMatchObject({ waiting: 1, held: 1, dead: 1 });
    expect(kept.store.deliveries.waitingOn(rows[4]!.routeId)).toBe(1);
  });

  test('the last of each submission on a route counts', () => {
    const { routeId, versionId, submissionId } = rows[0]!;
    changeDelivery(kept.store, rows[0]!.id, { state: 'delivered' });
    const [second] = kept.commands.sendAgain({ ids: [rows[0]!.id], mapping: 'then' });
    expect(kept.store.deliveries.byId(second!.id)).toMatchObject({ versionId, run: 2 });
    const last = kept.store.deliveries.lastOf(routeId, [submissionId, rows[4]!.submissionId]);
    expect([...last].map(([of, row]) => [of, row.id])).toEqual([[submissionId, second!.id]]);
  });
});

describe('recorded submissions are chosen', () => {
  test.each<[string, (all: { id: string; arrivalId: string; receivedAt: number }[]) => Selection, number[]]>([
    ['all, oldest first', () => ({}), [0, 1, 2, 3]],
    ['by their names', all => ({ sampleIds: [all[2]!.id, all[0]!.id, 'another'] }), [0, 2]],
    ['by none', () => ({ sampleIds: [] }), []],
    ['by their arrival', all => ({ arrivalId: all[1]!.arrivalId }), [1, 2, 3]],
    ['by what they are built of', () => ({ search: 'kind' }), []],
    ['by a number', () => ({ search: '2' }), [2]],
    ['by their identifier', () => ({ search: 's1' }), [1]],
    ['by an answer', () => ({ search: 'ab-07' }), [0, 1, 2, 3]],
    ['by a sign that has a meaning elsewhere', () => ({ search: 'AND' }), []],
    ['from a time on', all => ({ since: all[0]!.receivedAt }), [0, 1, 2, 3]],
    ['before a time', all => ({ until: all[0]!.receivedAt }), []],
  ])('%s', (_, selection, places) => {
    kept.arrive(3);
    const all = kept.store.forms.selected(kept.formId, {}, 100);
    const meant = selection(all);
    expect(ids(kept.store.forms.selected(kept.formId, meant, 100))).toEqual(places.map(at => all[at]!.id));
    expect(kept.store.forms.selectedCount(kept.formId, meant)).toBe(places.length);
    const [first] = kept.store.forms.selected(kept.formId, meant, 1);
    expect(ids(kept.store.forms.selected(kept.formId, meant, 100, first))).toEqual(
      places.slice(1).map(at => all[at]!.id),
    );
  });
});

describe('what targets offer', () => {
  const operation = (id: string): Operation => ({ id, label: id, method: 'POST', path: `/${id}`, fields: [] });
  const create = () => kept.store.targets.create({ name: 'T', baseUrl: 'http://t', discoveryPath: '/', secret: null });
  const draft = (targetId: string): RouteDefinition => ({
    format: ROUTE_FORMAT,
    name: 'R',
    condition: { all: [] },
    calls: [{ id: 'c', targetId, operationId: 'a', lines: [] }],
    terms: { hours: 1, timeZone: 'UTC' },
  });

  test('the same is kept once, and is under the same name', () => {
    const [one, other] = [create(), create()];
    const read = (id: string, ...names: string[]) =>
      kept.store.targets.update(id, { operations: names.map(operation) })!;
    expect(read(one.id, 'a', 'b').snapshot).toBe(read(other.id, 'a', 'b').snapshot);
    expect(read(other.id, 'b', 'a').snapshot).not.toBe(kept.store.targets.byId(one.id)!.snapshot);
    expect(kept.store.targets.byId(other.id)!.operations.map(each => each.id)).toEqual(['b', 'a']);
  });

  test('what nothing refers to any more is forgotten; what a version pins is not', () => {
    const { id } = create();
    const first = kept.store.targets.update(id, { operations: [operation('a')] })!.snapshot!;
    const second = kept.store.targets.update(id, { operations: [operation('b')] })!.snapshot!;
    const afresh = () => stillThere([first, second]);
    const stillThere = (hashes: string[]) => {
      const rows = kept.db.query.snapshots.findMany().sync();
      return hashes.map(hash => rows.some(row => row.hash === hash));
    };
    expect(afresh()).toEqual([false, true]);
    const route = kept.store.routes.create(kept.formId, draft(id));
    kept.store.routes.goLive(route.id);
    kept.store.targets.update(id, { operations: [operation('c')] });
    expect(afresh()).toEqual([false, true]);
    const version = kept.store.routes.latestVersion(route.id)!;
    expect(kept.store.snapshots.operations(version.pins[id]).map(each => each.id)).toEqual(['b']);
    expect(kept.store.routes.changesSince(version, route)).toEqual({ edited: false, targets: [id] });
  });

  test('going live again takes over what is offered now, and nothing else makes a new version', () => {
    const { id } = create();
    kept.store.targets.update(id, { operations: [operation('a')] });
    const route = kept.store.routes.create(kept.formId, draft(id));
    const number = () => (kept.store.routes.goLive(route.id), kept.store.routes.latestVersion(route.id)!.number);
    expect([number(), number()]).toEqual([1, 1]);
    kept.store.targets.update(id, { name: 'Another name', operations: [operation('a')] });
    expect(number()).toBe(1);
    kept.store.targets.update(id, { operations: [operation('a'), operation('b')] });
    expect([number(), number()]).toEqual([2, 2]);
  });

  test('routes that take submissions are known, live and paused, until they go', () => {
    const { id } = create();
    const route = kept.store.routes.create(kept.formId, draft(id));
    const running = () => kept.store.routes.running(kept.formId).map(each => [each.id, each.state]);
    expect(running()).toEqual([]);
    kept.store.routes.goLive(route.id);
    expect(running()).toEqual([[route.id, 'live']]);
    kept.store.routes.pause(route.id);
    expect([running(), kept.store.routes.running('another form')]).toEqual([[[route.id, 'paused']], []]);
    kept.store.routes.remove(route.id);
    expect(running()).toEqual([]);
  });

  test('an edit on an old revision is refused, and changes nothing', () => {
    const route = kept.store.routes.create(kept.formId, draft('t'));
    const named = (name: string) => ({ ...draft('t'), name });
    expect(kept.store.routes.saveDraft(route.id, { definition: named('first'), revision: 0 })).toMatchObject({
      revision: 1,
    });
    expect(kept.store.routes.saveDraft(route.id, { definition: named('second'), revision: 0 })).toBeNull();
    expect(kept.store.routes.byId(route.id)).toMatchObject({ revision: 1, draft: { name: 'first' } });
  });
});

describe('what was said is found', () => {
  const said = (fields: Submission['fields'], files: string[] = []): Submission => ({
    form: null,
    id: 'E-4711',
    submittedAt: null,
    meta: { token: 'envelope' },
    questions: [],
    fields,
    files: files.map(name => ({ field: 'photos', name, type: null, size: null, url: null })),
  });
  const answer = (kind: FieldKind, value: Json): Submission['fields'][number] => ({
    key: 'question',
    label: 'Wording',
    kind,
    value,
    pointer: '/question',
  });

  test.each<[string, boolean]>([
    ['rowan@example.org', true],
    ['ROWAN@', true],
    ['dürre', true],
    ['DÜRRE', true],
    ['oil sheen', true],
    ['outfall.jpg', true],
    ['e-4711', true],
    ['100 %', true],
    ['10', true],
    ['00', false],
    ['NOT x', false],
    ['question', false],
    ['wording', false],
    ['envelope', false],
  ])('%s: %s', (search, isFound) => {
    const fields = [
      answer('email', 'Rowan@Example.org'),
      answer('choices', ['Foam', 'Oil sheen']),
      answer('text', 'Dürre, 100 %'),
    ];
    const [row] = kept.rows(kept.read([said(fields, ['Outfall.jpg'])]));
    const { ids: found, searched } = kept.store.newestThatSay(search);
    expect([found, searched]).toEqual([isFound ? [row!.id] : [], null]);
    expect(ids(kept.store.forms.found(row!.formId, { sampleIds: found }, 5))).toEqual(found);
    expect(ids(kept.store.forms.anywhere(found, 5))).toEqual(found);
    expect(kept.store.forms.selectedCount(row!.formId, { search })).toBe(isFound ? 1 : 0);
  });

  test('of very many that hold a word the newest are looked through, and it says so', () => {
    const saying = (words: string) => said([answer('text', words)]);
    const one = (words: string) => kept.rows(kept.read([saying(words)]))[0]!.id;
    const old = one('foaming');
    for (let n = 0; n < 10; n++) kept.read(Array.from({ length: 501 }, () => saying('foam')));
    const newest = one('foam');
    const { ids: found, searched } = kept.store.newestThatSay('foam');
    expect([found.length, searched, found[0]]).toEqual([5000, 5000, newest]);
    expect(found).not.toContain(old);
    // A word that few hold finds them, however old they are.
    expect(kept.store.newestThatSay('foami')).toEqual({ ids: [old], searched: null });
  });

  test('deliveries too, and the form is told by its name', () => {
    const [row] = kept.rows(kept.read([said([answer('text', 'x'.repeat(50)), answer('phone', '+44 7946 0233')])]));
    const route = kept.route();
    const [delivery] = kept.commands.queue([{ ...route, submissionId: row!.id, about: 'nothing of it', createdAt: 1 }]);
    expect(ids(kept.store.deliveries.page({ search: '7946 02' }, 0, 5).rows)).toEqual([delivery!.id]);
    expect(kept.store.deliveries.page({ search: '7946 03' }, 0, 5).total).toBe(0);
    expect(kept.store.forms.anywhere(kept.store.newestThatSay('7946').ids, 5)[0]!.formName).toBe('Reports');
  });

  test.each<[string, Submission['fields'], string]>([
    [
      'what tells most, in its order',
      [
        answer('number', 88),
        answer('date', '26/11/2026'),
        answer('name', 'Wen Xiu'),
        answer('choice', 'AB-07'),
        answer('email', 'wen@example.org'),
      ],
      'Wen Xiu · AB-07 · wen@example.org',
    ],
    ['the rest where there is no more', [answer('number', 88), answer('name', 'Wen Xiu')], '88 · Wen Xiu'],
    ['nothing that is long', [answer('text', 'x'.repeat(41)), answer('text', 'short')], 'short'],
    ['its identifier, where there are no answers', [answer('boolean', '')], 'E-4711'],
  ])('a submission is told from others by %s', (_, fields, about) => expect(aboutSubmission(said(fields))).toBe(about));

  test('without answers and identifier there is nothing to tell it by', () =>
    expect(aboutSubmission({ ...said([]), id: null })).toBe('no answers'));
});

describe('several repositories store together', () => {
  const target = { name: 'Register', baseUrl: 'https://r.example.org', discoveryPath: '/', secret: null };

  test('all of it', () => {
    const { store } = kept;
    store.whole(() => {
      store.intakes.create({ name: 'Another' });
      // One that has a transaction of its own is a part of it.
      store.targets.update(store.targets.create(target).id, { name: 'The register' });
    });
    expect(store.intakes.all().map(each => each.name)).toContain('Another');
    expect(store.targets.all().map(each => each.name)).toContain('The register');
  });

  test('or nothing, and what is at hand is what is stored', () => {
    const { store } = kept;
    const { id, name } = store.targets.create(target);
    const [intake] = store.intakes.all();
    const before = [store.intakes.all(), store.routes.all()];
    let slug = '';
    const work = () => {
      slug = store.intakes.create({ name: 'Another' }).slug;
      store.intakes.update(intake!.id, { pins: { envelope: '/x' } as never });
      store.targets.update(id, { name: 'Renamed', operations: [] });
      expect(store.targets.byId(id)!.name).toBe('Renamed');
      throw new Error('no');
    };
    expect(() => store.whole(work)).toThrow('no');
    expect([store.intakes.all(), store.routes.all()]).toEqual(before);
    expect(store.targets.byId(id)!.name).toBe(name);
    expect(store.intakes.bySlug(slug)).toBeUndefined();
    expect(store.intakes.pinsOf(intake!.id)).toEqual(intake!.pins);
  });

  test('a part that fails on its own takes back only what it did', () => {
    const { store, db } = kept;
    store.whole(() => {
      store.targets.create({ ...target, name: 'Kept' });
      expect(() =>
        db.transaction(() => {
          store.targets.create({ ...target, name: 'Not kept' });
          throw new Error('part');
        }),
      ).toThrow('part');
    });
    const names = store.targets.all().map(each => each.name);
    expect([names.includes('Kept'), names.includes('Not kept')]).toEqual([true, false]);
  });
});
