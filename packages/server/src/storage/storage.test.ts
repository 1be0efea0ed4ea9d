import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { LiveEvent } from '@grammata/contract';
import { pino } from 'pino';
import { Turns } from '../ledger/turn';
import { LiveHub } from '../live';
import type { OpenDatabase } from '../store';
import { draftOf } from '../testing/draftOf';
import { eventually, startServer, startTarget } from '../testing/running';
import { StorageHealth, storageFault, syncFolder, writeAll } from '.';

// write(2): “the number of bytes written may be less than count”.
test('a chunk is written whole, however little is taken at a time', async () => {
  const written: number[] = [];
  const handle = {
    write: async (chunk: Uint8Array, at: number, length: number) => {
      const some = Math.min(3, length);
      written.push(...chunk.subarray(at, at + some));
      return { bytesWritten: some, buffer: chunk };
    },
  };
  await writeAll(handle as never, Uint8Array.from([1, 2, 3, 4, 5, 6, 7]));
  expect(written).toEqual([1, 2, 3, 4, 5, 6, 7]);
  const full = { write: async (chunk: Uint8Array) => ({ bytesWritten: 0, buffer: chunk }) };
  await expect(writeAll(full as never, Uint8Array.from([1]))).rejects.toMatchObject({ code: 'ENOSPC' });
});

test('a folder that is not there is told', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-'));
  expect(() => syncFolder(folder)).not.toThrow();
  rmSync(folder, { recursive: true });
  expect(() => syncFolder(folder)).toThrow('ENOENT');
});

test.each([
  ['SQLITE_FULL', 'The disk of the data folder is full.'],
  ['ENOSPC', 'The disk of the data folder is full.'],
  ['SQLITE_READONLY', 'The data folder can’t be written.'],
  ['EROFS', 'The data folder can’t be written.'],
  ['SQLITE_IOERR_WRITE', 'The data folder can’t be read or written as it should.'],
  ['SQLITE_BUSY', 'The database is locked by another program.'],
  ['SQLITE_CONSTRAINT', null],
  ['ECONNREFUSED', null],
])('%s means: %s', (code, words) => expect(storageFault(Object.assign(new Error('x'), { code }))).toBe(words));

test('trouble is told once, and its end too', () => {
  const [told, live] = [[] as LiveEvent['type'][], new LiveHub()];
  live.subscribe(event => told.push(event.type));
  const health = new StorageHealth(live, pino({ level: 'silent' }));
  const full = Object.assign(new Error('full'), { code: 'ENOSPC' });
  expect([health.failed(full), health.failed(full), health.failed(new Error('other'))]).toEqual([true, true, false]);
  expect(health.trouble).toMatchObject({ message: 'The disk of the data folder is full.' });
  health.fine();
  health.fine();
  expect([health.trouble, told]).toEqual([null, ['storage', 'storage']]);
});

test('with the disk full nothing is acknowledged, a delivery that was taken is not forgotten, and all goes on with room', async () => {
  const turns = jest.spyOn(Turns.prototype, 'do');
  const [client, target] = [await startServer(), await startTarget()];
  // The database is given no more pages than it has: SQLite then says that the disk is full (SQLITE_FULL).
  const { json: intake } = await client.call<{ id: string; address: string }>('POST', '/intakes', { name: 'Full' });
  const send = (n: number) =>
    fetch(`${client.url}${new URL(intake.address).pathname}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ submission_id: `n${n}`, site: 'AB-07', note: 'x'.repeat(3000) }),
    });
  await send(0);
  const arrival = await eventually(
    async () => (await client.call<{ formId: string }[]>('GET', `/intakes/${intake.id}/arrivals`)).json[0],
    each => Boolean(each?.formId),
  );
  const { json: made } = await client.call<{ id: string }>('POST', '/targets', {
    name: 'T',
    baseUrl: target.url,
    discoveryPath: '/tables',
  });
  const { json: route } = await client.call<{
    id: string;
    revision: number;
    draft: { calls: { lines: { to: string; source: unknown }[] }[] };
  }>('POST', '/routes', {
    name: 'R',
    formId: arrival!.formId,
    targetId: made.id,
    operationId: 'create:samples',
  });
  route.draft.calls[0]!.lines.find(each => each.to === 'site')!.source = { from: 'field', field: 'site' };
  await client.call('PUT', `/routes/${route.id}/draft`, draftOf(route));
  await client.call('POST', `/routes/${route.id}/live`);

  const { database } = turns.mock.contexts[0] as unknown as { database: Pick<OpenDatabase, 'client'> };
  const { client: ledger } = database;
  const [{ page_count: pages }] = ledger.pragma('page_count') as [{ page_count: number }];
  ledger.pragma(`max_page_count = ${pages + 6}`);
  const answers: number[] = [];
  for (let n = 1; n <= 20; n++) {
    const answer = await send(n);
    answers.push(answer.status);
    if (answer.status === 503) expect(answer.headers.get('retry-after')).toBe('60');
  }
  expect(new Set(answers)).toEqual(new Set([202, 503]));
  const desk = await client.call<{ storage: { message: string } | null }>('GET', '/desk');
  expect(desk.json.storage?.message).toBe('The disk of the data folder is full.');

  ledger.pragma('max_page_count = 1000000');
  const acknowledged = answers.filter(each => each === 202).length;
  expect((await send(99)).status).toBe(202);
  const delivered = await eventually(
    async () => (await client.call<{ counts: Record<string, number> }>('GET', '/deliveries')).json.counts,
    counts => counts.delivered === acknowledged + 1,
    20_000,
  );
  expect(delivered.dead).toBe(0);
  // Whatever was sent twice went under the same key.
  const keys = new Set(target.requests.map(each => each.headers['idempotency-key']));
  expect(keys.size).toBe(acknowledged + 1);
  expect((await client.call<{ storage: unknown }>('GET', '/desk')).json.storage).toBeNull();
  await client.stop();
  await target.stop();
});
