import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { ROUTE_FORMAT, usualTerms, type RouteDefinition } from '@grammata/core/route';
import type { Submission } from '@grammata/core/submission';
import { newArrival } from '../intake/arrival';
import { readSubmission } from '../decoding';
import { newId } from '../ids';
import { directCommands, directLedger, type Commands, type Ledger, type ReadingOutcome } from '../ledger';
import { openDatabase, storeOn, UPLOADED, type Database, type Store, type SubmissionRow } from '../store';

export interface Stored {
  db: Database;
  store: Store;
  /** The ledger on the same connection: at once, and as others have it. */
  commands: Commands;
  ledger: Ledger;
  intakeId: string;
  formId: string;
  /** Stores submissions as a file of so many, oldest first: they are samples, and are not queued. */
  arrive(count: number): SubmissionRow[];
  /** Stores a posted message that was read as these submissions; a new one unless one is named that is there. */
  read(submissions: Submission[], more?: { arrivalId?: string; isAgain?: boolean; revision?: number }): ReadingOutcome;
  rows(outcome: Pick<ReadingOutcome, 'arrivalId'>): SubmissionRow[];
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
  const database = openDatabase(path.join(folder, 'grammata.db'), path.resolve(__dirname, '../../migrations'));
  const { db, close } = database;
  const store = storeOn(db);
  const commands = directCommands(database);
  const intake = store.intakes.create({ name: 'Reports' });
  const target = store.targets.create({ name: 'Register', baseUrl: 'http://a', discoveryPath: '/', secret: null });
  let count = 0;
  const take = (method = 'POST'): string => {
    const id = newId();
    const body = Buffer.from(id);
    commands.takeIn([newArrival(intake, { id, method, contentType: null, headers: [], body, state: 'reading' })]);
    return id;
  };
  const read: Stored['read'] = (submissions, { arrivalId = take(), isAgain = false, revision = 0 } = {}) =>
    commands.read([
      {
        arrivalId,
        revision,
        isAgain,
        from: 0,
        submissions: submissions.map(each => readSubmission(each, undefined)),
        end: { state: 'read', trouble: null, isSure: true, way: null },
      },
    ])[0]!;
  const rows: Stored['rows'] = ({ arrivalId }) => store.arrivals.submissionsOf(arrivalId, 1000);
  const arrive: Stored['arrive'] = some => {
    const submissions = Array.from({ length: some }, () =>
      submissionOf({ site: 'AB-07', number: count }, `s${count++}`),
    );
    return rows(read(submissions, { arrivalId: take(UPLOADED) }));
  };
  const [{ formId }] = arrive(1) as [SubmissionRow];
  return {
    db,
    store,
    commands,
    ledger: directLedger(commands),
    intakeId: intake.id,
    formId,
    arrive,
    read,
    rows,
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
