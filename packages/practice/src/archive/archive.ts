import express, { Router, type RequestHandler, type Response } from 'express';
import { changing, type ApiEdit } from '../changing';
import { faultSwitch, misbehave, takeFault, type Fault } from '../faults';
import { html, page, type Html } from '../page/html';
import { FileStore } from '../store';
import { archiveDocument, NOTE_KINDS } from './document';

export const ARCHIVE_KEY = 'yard-archive-3c7f';

interface Specimen {
  id: number;
  label: string;
  site: string;
  state: string;
  /** Whatever else is to be kept, by name. */
  custom?: [name: string, value: string][];
  /** Rows of what was measured. */
  measures?: string[][];
}

interface Note {
  id: number;
  specimenId: number;
  text: string;
  shelf: string;
  /** One of the numbers that stand for what it is about. */
  kind?: number;
}

interface Loan {
  id: number;
  specimenId: number;
  borrower: string;
}

interface ArchiveState {
  fault: Fault;
  edits?: ApiEdit[];
  specimens: Specimen[];
  notes: Note[];
  loans?: Loan[];
  /** Where notices of new specimens go; left out for nowhere. */
  notices?: string;
}

/** Says no as this system does: one sentence, and a code of its own. */
const refuse = (response: Response, status: number, message: string) =>
  response.status(status).json({ ok: false, reason: { code: `A-${status}`, message } });

const textOf = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');
/** A list of `{ name, value }`; null for anything else. */
function pairsIn(custom: unknown): [string, string][] | null {
  if (!Array.isArray(custom)) return null;
  const pairs = custom.map((each: Record<string, unknown>): [string, string] => [
    textOf(each?.name),
    textOf(each?.value),
  ]);
  return pairs.every(([name, value]) => name !== '' && value !== '') ? pairs : null;
}

const isTable = (rows: unknown): rows is string[][] =>
  Array.isArray(rows) &&
  rows.every(
    row =>
      Array.isArray(row) && row.length === (rows[0] as unknown[]).length && row.every(cell => typeof cell === 'string'),
  );

/** Shelves that specimens stand on. */
const SHELVES = 4;
const shelfOf = ({ id }: Specimen): string => `shelf ${(id % SHELVES) + 1}`;
const tagsOf = ({ site, state }: Specimen) =>
  [site, state].filter(Boolean).map((name, index) => ({ id: 900 + index, name }));

/** The archive as the rest of the yard knows it. */
export interface Archive {
  router: Router;
  /** Puts specimens on its shelves where there are none yet. Gives their numbers. */
  keep(specimens: Pick<Specimen, 'label' | 'site' | 'state'>[]): number[];
  /** Has notices of new specimens go to an address, where nobody said where to. */
  notify(address: string): void;
}

/** A notice of a specimen: it holds its number alone. */
export const noticeOf = (id: number): string =>
  JSON.stringify({ value: [{ responseId: id, formId: 'specimens', resourceData: {} }] });

/**
 * The specimen archive: a target whose API is awkward in everyday ways. It is searched by POST, in parts of labels, with its list
 * wrapped; what is looked for by its address and is not there is answered with 404; numbers are identifiers, and stand for options with a name; what it makes it tells
 * otherwise than what it finds; a loan that it refuses is answered with 200, and its notices hold identifiers alone.
 */
export function archive(folder: string, url: () => string): Archive {
  const state = new FileStore<ArchiveState>(folder, 'archive', { fault: 'none', specimens: [], notes: [] });
  const { specimens, notes } = state.value;
  const loans = (state.value.loans ??= []);
  const router = Router();
  // What it takes of notes.
  const changed = changing({
    name: 'archive',
    state,
    document: archiveDocument(''),
    collection: { path: '/notes', schemas: ['NewNote'] },
    refuse: (response, wrong) =>
      void refuse(response, 422, wrong.map(({ field, detail }) => `${field} ${detail}`).join('; ')),
  });
  router.get(
    '/archive',
    (_request, response) =>
      void response.send(page('Specimen archive', 'a target', archivePage(state.value, changed.section()))),
  );
  router.use(takeFault('archive', state), changed.router);
  router.post('/archive/notices', express.urlencoded({ extended: false }), (request, response) => {
    const address = textOf((request.body as Record<string, unknown>).address);
    state.value.notices = URL.canParse(address) ? address : undefined;
    state.save();
    response.redirect(303, '/archive');
  });
  /** Tells whoever wants to know of a specimen, by its number alone; whether that arrives is not the archive's matter. */
  const notify = ({ id }: Specimen) => {
    const { notices } = state.value;
    if (notices === undefined) return;
    const headers = { 'content-type': 'application/json' };
    void fetch(notices, { method: 'POST', headers, body: noticeOf(id) }).catch(() => undefined);
  };
  const add = (specimen: Omit<Specimen, 'id'>): Specimen => {
    const made = { id: 71 + specimens.length, ...specimen };
    specimens.push(made);
    state.save();
    return made;
  };
  const isKept = (label: string) => specimens.some(each => each.label === label);
  /** By hand, on the archive's own page. */
  router.post('/archive/specimens', express.urlencoded({ extended: false }), (request, response) => {
    const { label, site, state: how } = request.body as Record<string, unknown>;
    if (textOf(label) !== '' && !isKept(textOf(label)))
      notify(add({ label: textOf(label), site: textOf(site), state: textOf(how) }));
    response.redirect(303, '/archive');
  });
  router.get(
    '/archive/v1/openapi.json',
    (_request, response) => void response.json(changed.document(archiveDocument(`${url()}/archive/v1`))),
  );

  const api = Router();
  const byId = (id: unknown) => specimens.find(each => String(each.id) === String(id));
  api.use(misbehave(state.value), express.json({ limit: '1mb' }), needsKey, changed.layer);
  api.post('/specimens/search', (request, response) => {
    const { filter = {}, limit = 20 } = request.body as { filter?: { label?: unknown }; limit?: unknown };
    if (!Number.isInteger(limit)) return void refuse(response, 422, 'limit is a whole number');
    const part = textOf(filter.label).toLowerCase();
    const found = specimens.filter(each => each.label.toLowerCase().includes(part));
    const items = found.slice(0, Number(limit)).map(({ id, ...attributes }) => ({ id, attributes }));
    response.json({ ok: true, data: { items, total: found.length } });
  });
  api.get('/specimens/labelled/:label', (request, response) => {
    const found = specimens.find(each => each.label === request.params.label);
    if (!found) return void refuse(response, 404, 'There is none.');
    response.json({ specimen: { id: found.id, label: found.label } });
  });
  api.post('/specimens', (request, response) => {
    const { label, site, state: how, custom = [], measures = [] } = request.body as Record<string, unknown>;
    const pairs = pairsIn(custom);
    if (!pairs) return void refuse(response, 422, 'custom is a list of objects with name and value');
    if (!isTable(measures)) return void refuse(response, 422, 'measures is a list of rows, all as wide');
    if (textOf(label) === '') return void refuse(response, 422, 'label is missing');
    if (isKept(textOf(label))) return void refuse(response, 409, 'There is one.');
    const made = add({ label: textOf(label), site: textOf(site), state: textOf(how), custom: pairs, measures });
    notify(made);
    response.status(201).json({ specimen: { id: made.id } });
  });
  api.get('/specimens/:id', (request, response) => {
    const found = byId(request.params.id);
    if (!found) return void refuse(response, 404, 'There is none.');
    response.json({ id: found.id, shelf: shelfOf(found), tags: tagsOf(found) });
  });
  api.patch('/specimens/:id', (request, response) => {
    const found = byId(request.params.id);
    if (!found) return void refuse(response, 404, 'There is none.');
    const { site, state: how } = request.body as Record<string, unknown>;
    if (site !== undefined) found.site = textOf(site);
    if (how !== undefined) found.state = textOf(how);
    state.save();
    response.json({ id: found.id });
  });
  api.post('/notes', (request, response) => {
    const { specimen_id: specimenId, text, shelf, kind } = request.body as Record<string, unknown>;
    if (!Number.isInteger(specimenId)) return void refuse(response, 422, 'specimen_id is a whole number');
    if (!byId(specimenId)) return void refuse(response, 422, 'There is no such specimen.');
    if (textOf(text) === '') return void refuse(response, 422, 'text is missing');
    if (kind !== undefined && !(typeof kind === 'number' && Object.hasOwn(NOTE_KINDS, kind)))
      return void refuse(response, 422, 'kind is the number of a kind');
    const note: Note = {
      id: notes.length + 1,
      specimenId: specimenId as number,
      text: textOf(text),
      shelf: textOf(shelf),
      ...(kind !== undefined && { kind }),
    };
    notes.push(note);
    state.save();
    response.status(201).json({ note: { id: note.id } });
  });
  api.post('/loans', (request, response) => {
    const { specimen_id: specimenId, borrower } = request.body as Record<string, unknown>;
    const refusal =
      byId(specimenId) === undefined
        ? 'There is no such specimen.'
        : textOf(borrower) === ''
          ? 'Nobody is named.'
          : loans.some(each => String(each.specimenId) === String(specimenId))
            ? 'It is lent already.'
            : null;
    // Its oldest part: the status says nothing.
    if (refusal !== null) return void response.json({ state: 'no', text: refusal });
    const loan = { id: loans.length + 1, specimenId: Number(specimenId), borrower: textOf(borrower) };
    loans.push(loan);
    state.save();
    response.json({ state: 'yes', loan: { id: loan.id } });
  });
  router.use('/archive/v1', api);
  return {
    router,
    keep: given => (specimens.length > 0 ? specimens.map(each => each.id) : given.map(each => add(each).id)),
    notify(address) {
      if (state.value.notices !== undefined) return;
      state.value.notices = address;
      state.save();
    },
  };
}

const needsKey: RequestHandler = (request, response, next) =>
  request.header('x-archive-key') === ARCHIVE_KEY ? next() : void refuse(response, 401, 'The key is missing or wrong.');

const MOST_SHOWN = 100;

/** The archive's page: its specimens, newest first, each with what is noted of it. */
function archivePage({ specimens, notes, loans = [], notices = '', fault }: ArchiveState, changes: Html): Html {
  const shown = [...specimens].reverse().slice(0, MOST_SHOWN);
  return html`<h1>Specimen archive</h1>
    <div class="row">
      <p class="soft">${specimens.length} specimens, newest first.</p>
      ${faultSwitch('archive', 'The archive', fault)}
    </div>
    <form method="post" action="/archive/specimens" class="row">
      <label>Label<input type="text" name="label" required /></label><label>Site<input type="text" name="site" /></label
      ><label>State<input type="text" name="state" /></label><button>Add a specimen</button>
    </form>
    <form method="post" action="/archive/notices" class="row">
      <label
        >Notices of new specimens go to<input
          type="text"
          size="44"
          name="address"
          value="${notices}"
          placeholder="https://…" /></label
      ><button>Set</button>
    </form>
    ${changes}
    ${
      shown.length === 0
        ? html`<p class="soft">No specimen yet.</p>`
        : html`<div class="scroll" tabindex="0" role="region" aria-label="Specimens">
            <table class="wide">
              <tr>
                ${['Number', 'Label', 'Site', 'State', 'Kept with it', 'Measured', 'Notes', 'Lent to'].map(heading => html`<th>${heading}</th>`)}
              </tr>
              ${shown.map(each => {
                const own = notes.filter(note => note.specimenId === each.id);
                const kept = (each.custom ?? []).map(([name, value]) => `${name}: ${value}`).join('; ');
                const rows = (each.measures ?? []).map(row => row.join(' | ')).join('; ');
                const answer = own
                  .map(({ text, shelf, kind }) => [kind && NOTE_KINDS[kind], text, shelf].filter(Boolean).join(', '))
                  .join('; ');
                const lent = loans.find(loan => loan.specimenId === each.id)?.borrower ?? '';
                return html`<tr>
                  ${[String(each.id), each.label, each.site, each.state, kept, rows, answer, lent].map(value => html`<td>${value}</td>`)}
                </tr>`;
              })}
            </table>
          </div>`
    }`;
}
