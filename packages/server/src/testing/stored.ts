import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { ROUTE_FORMAT, usualTerms, type RouteDefinition } from '@grammata/core/route';
import type { Submission } from '@grammata/core/submission';
import { newArrival } from '../intake/arrival';
import { newId } from '../ids';
import { openDatabase, storeOn, type Database, type Store, type SubmissionRow } from '../store';

export interface Stored {
  db: Database;
  store: Store;
  formId: string;
  /** Stores submissions as an arrival of so many, oldest first. */
  arrive(count: number): SubmissionRow[];
  /** A live route of the form. */
  route(more?: Partial<RouteDefinition>): { routeId: string; versionId: string };
  close(): void;
}

export const submissionOf = (answers: Record<string, string | number>, id: string | null = null): Submission => ({
  form: null,
  id,
  submittedAt: null,
  meta: {},
  files: [],
  questions: Object.keys(answers).map(key => ({ key, label: key, pointer: `/${key}` })),
  fields: Object.entries(answers).map(([key, value]) => ({
    key,
    label: key,
    kind: typeof value === 'number' ? ('number' as const) : ('text' as const),
    value,
    pointer: `/${key}`,
  })),
});

/** A database on disk with one intake and one form. */
export function stored(): Stored {
  const folder = mkdtempSync(path.join(tmpdir(), 'grammata-'));
  const { db, close } = openDatabase(path.join(folder, 'grammata.db'), path.resolve(__dirname, '../../migrations'));
  const store = storeOn(db);
  const intake = store.intakes.create({ name: 'Reports' });
  const target = store.targets.create({ name: 'Register', baseUrl: 'http://a', discoveryPath: '/', secret: null });
  let count = 0;
  const arrive: Stored['arrive'] = some => {
    const arrival = newArrival(intake, {
      id: newId(),
      method: 'POST',
      contentType: null,
      headers: [],
      body: Buffer.from('x'),
    });
    store.arrivals.record([arrival]);
    const submissions = Array.from({ length: some }, () =>
      submissionOf({ site: 'AB-07', number: count }, `s${count++}`),
    );
    return store.readings.store(arrival, { state: 'read', trouble: null, submissions });
  };
  const [{ formId }] = arrive(1) as [SubmissionRow];
  return {
    db,
    store,
    formId,
    arrive,
    route(more = {}) {
      const { id: routeId } = store.routes.create(formId, {
        format: ROUTE_FORMAT,
        name: 'R',
        condition: { all: [] },
        calls: [{ id: 'c', targetId: target.id, operationId: 'o', lines: [] }],
        terms: usualTerms,
        ...more,
      });
      store.routes.goLive(routeId);
      return { routeId, versionId: store.routes.latestVersion(routeId)!.id };
    },
    close() {
      close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
