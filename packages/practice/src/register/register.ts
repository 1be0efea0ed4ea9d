import express, { Router, type RequestHandler } from 'express';
import { misbehave, problem, takeFault } from '../faults';
import { page } from '../page/html';
import { FileStore } from '../store';
import { complaintsAbout } from './check';
import { registerPage } from './page';
import { columnEditKinds, editedTables, type ColumnEdit } from './edits';
import type { RegisterState } from './state';
import { tables, type Table } from './tables';

export const REGISTER_TOKEN = 'yard-register-2f7c';

/** The register: a target with tables, read by discovery, with a bearer token and a page to look at its records. */
export function register(folder: string) {
  const state = new FileStore<RegisterState>(folder, 'register', {
    fault: 'none',
    next: 1,
    records: {},
    extra: {},
    edits: [],
  });
  const tablesNow = () => editedTables(tables, state.value.edits ?? []);
  const router = Router();
  const tableOf = (key: unknown): Table | undefined => tablesNow().find(table => table.key === key);
  const recordsOf = (key: string) => (state.value.records[key] ??= []);

  router.get('/register', (request, response) => {
    const shown = tableOf(request.query.table) ?? tablesNow()[0]!;
    response.send(page('Register', 'a target', registerPage(state.value, tablesNow(), shown)));
  });
  router.use(takeFault('register', state));
  /** Changes what it takes, as those who look after it do; or puts it back. */
  router.post('/register/columns', express.urlencoded({ extended: false }), (request, response) => {
    const text = (name: string) => String((request.body as Record<string, unknown>)[name] ?? '').trim();
    const table = text('table');
    const what = text('what');
    if (what === 'back') state.value.edits = [];
    else if (Object.hasOwn(columnEditKinds, what) && tableOf(table)?.columns.some(each => each.key === text('column')))
      change([{ table, column: text('column'), what: what as ColumnEdit['what'], to: text('to') || 'another' }]);
    state.save();
    response.redirect(303, `/register?table=${encodeURIComponent(table)}`);
  });
  const change = (edits: ColumnEdit[]) => {
    state.value.edits = [...(state.value.edits ?? []), ...edits];
    state.save();
  };

  const apiRouter = Router();
  apiRouter.use(misbehave(state.value), express.json({ limit: '5mb' }), needsToken);

  apiRouter.get('/tables', (_request, response) => void response.json({ tables: tablesNow() }));

  apiRouter.get('/tables/:table/records', (request, response) => {
    const table = tableOf(request.params.table);
    if (!table) return void problem(response, 404, 'There is no such table.');
    response.json({ records: recordsOf(table.key).map(({ no, values }) => ({ record_no: no, ...values })) });
  });

  apiRouter.post('/tables/:table/records', (request, response) => {
    const table = tableOf(request.params.table);
    if (!table) return void problem(response, 404, 'There is no such table.');
    const key = request.header('idempotency-key') ?? null;
    const before = key === null ? undefined : recordsOf(table.key).find(record => record.idempotencyKey === key);
    if (before) return void response.status(200).json({ record_no: before.no });
    const body = request.body as { values?: unknown } | undefined;
    if (typeof body?.values !== 'object' || body.values === null)
      return void problem(response, 400, 'The body must be {"values": {…}}.');
    const values = body.values as Record<string, unknown>;
    const complaints = complaintsAbout(table, values);
    if (complaints.length > 0) return void problem(response, 422, 'The record can’t be taken.', complaints);
    const record = { no: state.value.next++, at: new Date().toISOString(), idempotencyKey: key, values };
    recordsOf(table.key).push(record);
    state.save();
    response.status(201).json({ record_no: record.no });
  });
  router.use('/register/v1', apiRouter);
  return { router, change };
}

const needsToken: RequestHandler = (request, response, next) => {
  if (request.header('authorization') === `Bearer ${REGISTER_TOKEN}`) return next();
  response.set('www-authenticate', 'Bearer');
  problem(response, 401, 'The token is missing or wrong.');
};
