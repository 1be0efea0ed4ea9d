import express, { Router } from 'express';
import { graphql, GraphQLError } from 'graphql';
import { faultSwitch, misbehave, takeFault, type Fault } from '../faults';
import { html, page, type Html } from '../page/html';
import { Kept } from '../store';
import { consents, type GivenConsent } from './consents';
import { sightingsSchema } from './schema';

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
  sightings: Sighting[];
  given: GivenConsent[];
}

const FORMER_SITES = /^XX-/;

/** Sightings of animals: a target that speaks GraphQL, and is asked with somebody's consent or with a key. */
export function sightings(folder: string): Router {
  const state = new Kept<SightingsState>(folder, 'sightings', { fault: 'none', sightings: [], given: [] });
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

  const byId = (id: string) => all.find(each => each.id === id);
  const roots = {
    sightings({ species, site, first }: { species?: string; site?: string; first: number }) {
      const found = all.filter(each => (!species || each.species === species) && (!site || each.place.site === site));
      return { total: found.length, nodes: found.slice(0, first) };
    },
    sighting: ({ id }: { id: string }) => byId(id) ?? null,
    recordSighting({ input }: { input: Omit<Sighting, 'id' | 'number' | 'marks'> & { marks?: Sighting['marks'] } }) {
      // What the types can't say is said as an error, in an answer of 200.
      if (input.count < 1) throw new GraphQLError('count must be 1 or more');
      if (FORMER_SITES.test(input.place.site)) throw new GraphQLError(`There is no site ${input.place.site}.`);
      const number = all.length + 1;
      const made: Sighting = { ...input, marks: input.marks ?? [], id: `sighting-${number}`, number };
      all.push(made);
      state.save();
      return made;
    },
    changeSighting({ id, changes }: { id: string; changes: Partial<Sighting> }) {
      const found = byId(id);
      if (!found) throw new GraphQLError('There is no such sighting.');
      Object.assign(found, changes);
      state.save();
      return found;
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
        await graphql({ schema: sightingsSchema, source: query, rootValue: roots, variableValues: variables }),
      );
    },
  );
  return router;
}

const MOST_SHOWN = 100;

/** The page of the sightings: newest first, and who may act for whom. */
function sightingsPage({ sightings: all, given, fault }: SightingsState): Html {
  const shown = [...all].reverse().slice(0, MOST_SHOWN);
  return html`<h1>Sightings</h1>
    <div class="row">
      <p class="soft">${all.length} sightings, newest first.</p>
      ${faultSwitch('sightings', 'The sightings', fault)}
    </div>
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
                const said = marks.map(({ name, value }) => `${name}: ${value}`).join('; ');
                return html`<tr>
                  ${[number, species, count, stage, seenAt, place.site, observer, said].map(value => html`<td>${value}</td>`)}
                </tr>`;
              })}
            </table>
          </div>`
    }`;
}
