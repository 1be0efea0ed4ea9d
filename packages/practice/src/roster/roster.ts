import { randomBytes, randomUUID } from 'node:crypto';
import express, { Router, type RequestHandler } from 'express';
import { changing, type ApiEdit } from '../changing';
import { faultSwitch, misbehave, problem, takeFault, type Fault } from '../faults';
import { html, page, type Html } from '../page/html';
import { FileStore } from '../store';
import { complaintsAbout, kept, type Contact } from './contact';
import { rosterDocument } from './document';

const FIRST_KEY = 'yard-roster-91b4';

interface RosterState {
  fault: Fault;
  edits?: ApiEdit[];
  contacts: Contact[];
  /** The only key that it takes, where that is not the first one. */
  key?: string;
  /** Which contact an idempotency key made. */
  made: Record<string, string>;
}

/** The roster: a target with contacts, an OpenAPI document, an API key in a header, and a page to look at its records. */
export function roster(folder: string, url: () => string) {
  const state = new FileStore<RosterState>(folder, 'roster', { fault: 'none', contacts: [], made: {} });
  const { contacts } = state.value;
  const key = () => state.value.key ?? FIRST_KEY;
  const takeNewKey = () => {
    state.value.key = `yard-roster-${randomBytes(2).toString('hex')}`;
    state.save();
  };
  const router = Router();
  const changed = changing({
    name: 'roster',
    state,
    document: rosterDocument(''),
    collection: { path: '/contacts', schemas: ['NewContact', 'Contact'] },
    refuse: (response, wrong) =>
      void problem(
        response,
        422,
        'The contact can’t be taken.',
        wrong.map(({ field, detail }) => ({ pointer: `#/${field}`, detail })),
      ),
  });
  router.get(
    '/roster',
    (_request, response) =>
      void response.send(page('Roster', 'a target', rosterPage(state.value, key(), changed.section()))),
  );
  router.use(takeFault('roster', state), changed.router);
  /** A new key, and no other works from then on; or the first one again. */
  router.post('/roster/key', express.urlencoded({ extended: false }), (request, response) => {
    if ((request.body as Record<string, unknown> | undefined)?.what === 'back') delete state.value.key;
    else takeNewKey();
    state.save();
    response.redirect(303, '/roster');
  });
  router.get(
    '/roster/v1/openapi.json',
    (_request, response) => void response.json(changed.document(rosterDocument(`${url()}/roster/v1`))),
  );

  const api = Router();
  api.use(misbehave(state.value), express.json({ limit: '1mb' }), needsKey(key), changed.layer);
  api.get('/contacts', (request, response) => {
    const wanted = typeof request.query.email === 'string' ? request.query.email.toLowerCase() : null;
    response.json({ contacts: contacts.filter(each => wanted === null || each.email === wanted).slice(0, 100) });
  });
  api.post('/contacts', (request, response) => {
    const complaints = complaintsAbout(request.body, true);
    if (complaints.length > 0) return void problem(response, 422, 'The contact can’t be taken.', complaints);
    const key = request.header('idempotency-key');
    const before =
      key === undefined
        ? undefined
        : contacts.find(each => Object.hasOwn(state.value.made, key) && each.id === state.value.made[key]);
    if (before) return void response.status(200).json(before);
    const values = kept(request.body as Record<string, unknown>);
    if (contacts.some(each => each.email === values.email))
      return void problem(response, 409, 'There is a contact with this e-mail address.', [
        { pointer: '#/email', detail: 'is another’s' },
      ]);
    const at = new Date().toISOString();
    const contact = { ...values, id: randomUUID(), created_at: at, updated_at: at } as Contact;
    contacts.push(contact);
    if (key !== undefined) state.value.made[key] = contact.id;
    state.save();
    response.status(201).location(`${url()}/roster/v1/contacts/${contact.id}`).json(contact);
  });
  api.get('/contacts/:id', (request, response) => {
    const contact = contacts.find(each => each.id === request.params.id);
    if (!contact) return void problem(response, 404, 'There is no such contact.');
    response.json(contact);
  });
  api.patch('/contacts/:id', (request, response) => {
    const contact = contacts.find(each => each.id === request.params.id);
    if (!contact) return void problem(response, 404, 'There is no such contact.');
    const complaints = complaintsAbout(request.body, false);
    if (complaints.length > 0) return void problem(response, 422, 'The contact can’t be taken.', complaints);
    Object.assign(contact, kept(request.body as Record<string, unknown>), { updated_at: new Date().toISOString() });
    state.save();
    response.json(contact);
  });
  router.use('/roster/v1', api);
  return {
    router,
    key,
    change(edits: ApiEdit[], newKey: boolean): void {
      changed.change(edits);
      if (newKey) takeNewKey();
    },
  };
}

const needsKey =
  (key: () => string): RequestHandler =>
  (request, response, next) =>
    request.header('x-roster-key') === key() ? next() : void problem(response, 401, 'The key is missing or wrong.');

const MOST_SHOWN = 200;

/** The roster's page: its contacts, newest first. */
function rosterPage({ contacts, fault }: RosterState, key: string, changes: Html): Html {
  const shown = [...contacts].reverse().slice(0, MOST_SHOWN);
  return html`<h1>Roster</h1>
    <div class="row">
      <p class="soft">${contacts.length} contacts, newest first.</p>
      ${faultSwitch('roster', 'The roster', fault)}
    </div>
    ${changes}
    <form method="post" action="/roster/key" class="row">
      <p class="soft">Key: <code>${key}</code></p>
      <button class="quiet">Issue a new key</button>
    </form>
    ${
      shown.length === 0
        ? html`<p class="soft">No contact yet.</p>`
        : html`<div class="scroll" tabindex="0" role="region" aria-label="Contacts">
            <table class="wide">
              <tr>
                ${['Given name', 'Family name', 'E-mail', 'Phone', 'Born', 'Address', 'Interests', 'Tags', 'Note'].map(
                  heading => html`<th>${heading}</th>`,
                )}
              </tr>
              ${shown.map(
                each =>
                  html`<tr>
                    ${[
                      each.given_name,
                      each.family_name,
                      each.email,
                      each.phone,
                      each.born,
                      Object.values(each.postal ?? {}).join(', '),
                      each.interests?.join(', '),
                      each.tags?.join(', '),
                      each.note,
                    ].map(value => html`<td>${value}</td>`)}
                  </tr>`,
              )}
            </table>
          </div>`
    }`;
}
