import express, { Router } from 'express';
import { buildSchema, graphql, GraphQLError } from 'graphql';
import { apiEditKinds, changeSection, type ApiEdit } from '../changing';
import { faultSwitch, misbehave, takeFault, type Fault } from '../faults';
import { html, page, type Html } from '../page/html';
import { FileStore } from '../store';
import { consents, type GivenConsent } from './consents';
import { editedSchema, isSightingEdit, recordingName, sightingAsBefore, sightingFields, stageAfter } from './edits';
import { sightingsText } from './schema';

export { SIGHTINGS_CLIENT } from './consents';
export const SIGHTINGS_KEY = 'yard-sightings-key-5d07';

interface Sighting {
  id: string;
  number: number;
  species: string;
  count: number;
  stage: string | null;
  seenAt: string | null;
  place: { site: string; note: string | null };
  observer: string | null;
  marks: { name: string; value: string }[];
}

interface SightingsState {
  fault: Fault;
  edits?: ApiEdit[];
  sightings: Sighting[];
  given: GivenConsent[];
}

const FORMER_SITES = /^XX-/;

/** Sightings of animals: a target that speaks GraphQL, and is asked with somebody's consent or with a key. */
export function sightings(folder: string): Router {
  const state = new FileStore<SightingsState>(folder, 'sightings', { fault: 'none', sightings: [], given: [] });
  const { sightings: all, given } = state.value;
  const provider = consents(given, () => state.save());
  const router = Router();
  router.get(
    '/sightings',
    (_request, response) => void response.send(page('Sightings', 'a target', sightingsPage(state.value))),
  );
  router.post('/sightings/withdraw', express.urlencoded({ extended: false }), (request, response) => {
    provider.withdraw(String((request.body as Record<string, unknown>).id));
    response.redirect(303, '/sightings');
  });
  router.use(takeFault('sightings', state), provider.router);
  const edits = () => state.value.edits ?? [];
  /** Changes what it takes, as those who look after it do; or puts it back. */
  router.post('/sightings/changes', express.urlencoded({ extended: false }), (request, response) => {
    const text = (name: string) => String((request.body as Record<string, unknown>)[name] ?? '').trim();
    const edit = { field: text('field'), what: text('what') as ApiEdit['what'], to: text('to') || 'another' };
    if (text('what') === 'back') state.value.edits = [];
    else if (Object.hasOwn(apiEditKinds, edit.what) && isSightingEdit(edit, sightingsText))
      state.value.edits = [...edits(), edit];
    state.save();
    response.redirect(303, '/sightings');
  });

  const byId = (id: string) => all.find(each => each.id === id);
  const asEdited = (sighting: Sighting): Sighting => ({ ...sighting, stage: stageAfter(sighting.stage, edits()) });
  const roots = {
    sightings({ species, site, first }: { species?: string; site?: string; first: number }) {
      const found = all.filter(each => (!species || each.species === species) && (!site || each.place.site === site));
      return { total: found.length, nodes: found.slice(0, first).map(asEdited) };
    },
    sighting({ id }: { id: string }) {
      const found = byId(id);
      return found ? asEdited(found) : null;
    },
    recordSighting({ input: given }: { input: Record<string, unknown> }) {
      // What is not asked any more is as if nobody had said it.
      const input = {
        species: 'unknown',
        count: 1,
        stage: null,
        seenAt: null,
        place: { site: 'unknown', note: null },
        observer: null,
        ...(sightingAsBefore(given, edits()) as Partial<Omit<Sighting, 'id' | 'number'>>),
      };
      // What the types can't say is said as an error, in an answer of 200.
      if (input.count < 1) throw new GraphQLError('count must be 1 or more');
      if (FORMER_SITES.test(input.place.site)) throw new GraphQLError(`There is no site ${input.place.site}.`);
      const number = all.length + 1;
      const made: Sighting = { ...input, marks: input.marks ?? [], id: `sighting-${number}`, number };
      all.push(made);
      state.save();
      return asEdited(made);
    },
    changeSighting({ id, changes }: { id: string; changes: Partial<Sighting> }) {
      const found = byId(id);
      if (!found) throw new GraphQLError('There is no such sighting.');
      Object.assign(found, sightingAsBefore(changes, edits()));
      state.save();
      return asEdited(found);
    },
  };
  router.post(
    '/sightings/graphql',
    misbehave(state.value),
    express.json({ limit: '1mb' }),
    async (request, response) => {
      if (request.header('x-sightings-key') !== SIGHTINGS_KEY && !provider.isGood(request))
        return void response
          .status(401)
          .set('www-authenticate', 'Bearer error="invalid_token"')
          .json({ errors: [{ message: 'The token has ended, or is not known.' }] });
      const { query, variables } = request.body as { query?: unknown; variables?: Record<string, unknown> };
      if (typeof query !== 'string')
        return void response.status(400).json({ errors: [{ message: 'There is no query.' }] });
      response.json(
        await graphql({
          schema: buildSchema(editedSchema(sightingsText, edits())),
          source: query,
          rootValue: { ...roots, [recordingName(edits())]: roots.recordSighting },
          variableValues: variables,
        }),
      );
    },
  );
  return router;
}

const MOST_SHOWN = 100;

/** The page of the sightings: newest first, and who may act for whom. */
function sightingsPage({ sightings: all, given, fault, edits }: SightingsState): Html {
  const shown = [...all].reverse().slice(0, MOST_SHOWN);
  return html`<h1>Sightings</h1>
    <div class="row">
      <p class="soft">${all.length} sightings, newest first.</p>
      ${faultSwitch('sightings', 'The sightings', fault)}
    </div>
    ${changeSection({
      action: '/sightings/changes',
      heading: 'Change what it takes',
      part: {
        name: 'field',
        label: 'Field to change',
        options: Object.fromEntries(sightingFields(sightingsText).map(each => [each, each])),
      },
      kinds: { ...apiEditKinds, moved: 'call recording otherwise' },
      isChanged: (edits ?? []).length > 0,
    })}
    ${given.map(
      each =>
        html`<form method="post" action="/sightings/withdraw" class="row">
          <input type="hidden" name="id" value="${each.id}" />
          <p class="soft">“${each.client}” may act, since ${each.at.slice(0, 16).replace('T', ' ')}.</p>
          <button>Withdraw consent</button>
        </form>`,
    )}
    ${
      shown.length === 0
        ? html`<p class="soft">Nothing was seen yet.</p>`
        : html`<div class="scroll" tabindex="0" role="region" aria-label="Sightings">
            <table class="wide">
              <tr>
                ${['No.', 'Species', 'Count', 'Stage', 'Seen', 'Site', 'Observer', 'Marks'].map(each => html`<th>${each}</th>`)}
              </tr>
              ${shown.map(({ number, species, count, stage, seenAt, place, observer, marks }) => {
                const markWords = marks.map(({ name, value }) => `${name}: ${value}`).join('; ');
                return html`<tr>
                  ${[number, species, count, stage, seenAt, place.site, observer, markWords].map(value => html`<td>${value}</td>`)}
                </tr>`;
              })}
            </table>
          </div>`
    }`;
}
