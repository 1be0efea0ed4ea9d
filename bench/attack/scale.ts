import { spawnSync } from 'node:child_process';
import path from 'node:path';
import Libsql from 'libsql';
import { Attacked, until } from './server';

export interface PageFigure {
  page: string;
  milliseconds: number;
  kilobytes: number;
}

/** Half a million submissions of their own, as many in one arrival, as many deliveries that wait on a paused route; and how long each page takes. */
export async function scale(
  most = 500_000,
): Promise<{ pages: PageFigure[]; before: number; after: number; restart: number }> {
  const attacked = await Attacked.fresh();
  try {
    const intake = await attacked.call<{ id: string; address: string }>('POST', '/intakes', { name: 'Large' });
    const send = (n: string) =>
      fetch(intake.address, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({
          submission_id: n,
          site: 'AB-07',
          ph: 7.4,
          note: 'Clear water, a little foam at the outfall.',
          signs: ['Foam', 'Oil sheen'],
        }),
      });
    await send('first');
    const arrivals = () =>
      attacked.call<{ id: string; formId: string | null }[]>('GET', `/intakes/${intake.id}/arrivals`);
    await until(async () => Boolean((await arrivals())[0]?.formId), 20_000, 'it is read');
    const [arrival] = await arrivals();
    const formId = arrival!.formId!;
    const target = await attacked.call<{ id: string; operations: { id: string }[] }>('POST', '/targets', {
      name: 'T',
      baseUrl: attacked.url,
      reads: 'example',
      discoveryPath: '/',
      document: '{"site":"AB-07"}',
    });
    const route = await attacked.call<{
      id: string;
      revision: number;
      draft: { calls: { lines: { source: unknown }[] }[] };
    }>('POST', '/routes', {
      name: 'R',
      formId,
      targetId: target.id,
      operationId: target.operations[0]!.id,
    });
    route.draft.calls[0]!.lines[0]!.source = { from: 'field', field: 'site' };
    await attacked.call('PUT', `/routes/${route.id}/draft`, {
      definition: route.draft,
      revision: route.revision,
    });
    await attacked.call('POST', `/routes/${route.id}/live`);
    await attacked.call('POST', `/routes/${route.id}/pause`);
    const pace = async () => {
      const started = performance.now();
      let sent = 0;
      const lane = async () => {
        while (performance.now() - started < 3000) {
          await (await send(`p${Math.random()}`)).arrayBuffer();
          sent += 1;
        }
      };
      await Promise.all(Array.from({ length: 20 }, lane));
      return sent / ((performance.now() - started) / 1000);
    };
    const before = await pace();
    await attacked.kill();
    fill(path.join(attacked.dataDir, 'grammata.db'), { intakeId: intake.id, formId, routeId: route.id, most });
    const begun = performance.now();
    await attacked.start();
    const restart = performance.now() - begun;
    const wide = 'wide';
    const pages: PageFigure[] = [];
    for (const page of [
      '/desk',
      '/intakes',
      `/intakes/${intake.id}`,
      `/intakes/${intake.id}/arrivals?limit=100`,
      `/arrivals/${wide}`,
      '/forms',
      `/forms/${formId}`,
      `/forms/${formId}/weeks`,
      `/forms/${formId}/samples?limit=200`,
      '/routes',
      `/routes/${route.id}`,
      `/routes/${route.id}/refusals`,
      '/deliveries?limit=100',
      '/deliveries?limit=100&state=waiting',
      `/deliveries?limit=100&state=waiting&route=${route.id}`,
      '/deliveries?limit=100&search=nothing',
      '/deliveries?limit=100&search=foam',
      `/forms/${formId}/samples?limit=200&search=foam`,
      '/find?search=foam',
      '/find?search=b4711',
      '/changes',
      '/targets',
    ]) {
      const times: number[] = [];
      let bytes = 0;
      for (let run = 0; run < 3; run++) {
        const started = performance.now();
        const answer = await fetch(`${attacked.url}/api${page}`, { headers: { cookie: attacked.cookie } });
        bytes = (await answer.arrayBuffer()).byteLength;
        if (!answer.ok) throw new Error(`${page} answered ${answer.status}.`);
        times.push(performance.now() - started);
      }
      pages.push({
        page: page.replaceAll(/[0-9a-z]{23}/g, ':id'),
        milliseconds: times.sort((a, b) => a - b)[1]!,
        kilobytes: bytes / 1000,
      });
    }
    const after = await pace();
    return { pages, before, after, restart };
  } finally {
    await attacked.kill();
    spawnSync('rm', ['-rf', attacked.dataDir]);
  }
}

/** Writes what months would have brought, by copying the rows of what came. */
function fill(
  file: string,
  { intakeId, formId, routeId, most }: { intakeId: string; formId: string; routeId: string; most: number },
): void {
  const db = new Libsql(file);
  db.exec('PRAGMA synchronous = OFF');
  const first = db.prepare('SELECT * FROM submissions WHERE form_id = ? LIMIT 1').get(formId) as Record<
    string,
    unknown
  >;
  const version = db.prepare('SELECT id FROM versions WHERE route_id = ?').get(routeId) as { id: string };
  const arrive = db.prepare(
    "INSERT INTO arrivals (id, intake_id, received_at, method, url, content_type, headers, size, cut, state, digest, found, repeats, form_id, about) VALUES (?, ?, ?, 'POST', '/in/x', 'application/json', '[]', 200, 0, 'read', ?, ?, 0, ?, 'AB-07')",
  );
  const submit = db.prepare(
    'INSERT INTO submissions (id, arrival_id, form_id, position, received_at, builder_id, data, kept) VALUES (?, ?, ?, ?, ?, ?, ?, 0)',
  );
  const keep = db.prepare("INSERT INTO arrival_bodies (arrival_id, body) VALUES (?, x'7b7d')");
  const number = db.prepare('INSERT INTO submission_numbers (submission_id) VALUES (?)');
  const word = db.prepare(
    'INSERT INTO submission_words (rowid, words) SELECT number, ? FROM submission_numbers WHERE submission_id = ?',
  );
  const say = (id: string, n: number) => {
    number.run(id);
    word.run(`AB-07 7.4 Clear water, a little foam at the outfall b${n}`, id);
  };
  const deliver = db.prepare(
    "INSERT INTO deliveries (id, route_id, version_id, submission_id, state, run, idempotency_key, created_at, next_attempt_at, attempts, about) VALUES (?, ?, ?, ?, 'waiting', 1, ?, ?, ?, 0, 'AB-07 · 7.4')",
  );
  const now = Date.now();
  db.exec('BEGIN');
  for (let n = 0; n < most; n++) {
    const at = now - (most - n) * 20_000;
    arrive.run(`a${n}`, intakeId, at, `d${n}`, 1, formId);
    keep.run(`a${n}`);
    submit.run(`s${n}`, `a${n}`, formId, 0, at, `b${n}`, first.data as string);
    say(`s${n}`, n);
    deliver.run(`d${n}`, routeId, version.id, `s${n}`, `k${n}`, at, at);
  }
  arrive.run('wide', intakeId, now, 'wide', most, formId);
  keep.run('wide');
  for (let n = 0; n < most; n++) {
    submit.run(`w${n}`, 'wide', formId, n, now, `w${n}`, first.data as string);
    say(`w${n}`, n);
  }
  db.exec('COMMIT');
  db.close();
}
