import express, { Router, type RequestHandler, type Response } from 'express';
import type { Html } from '../page/html';
import type { FileStore } from '../store';
import {
  apiEditKinds,
  asAfter,
  asBefore,
  editedDocument,
  fieldsIn,
  optionsIn,
  pathOf,
  type ApiDocument,
  type ApiEdit,
  type Collection,
  type Wrong,
} from './edits';
import { changeSection } from './section';

/** An API that can be changed. */
export interface ChangingApi {
  /** The target's own name in addresses: `roster`. */
  name: string;
  state: FileStore<{ edits?: ApiEdit[] } & object>;
  /** What it says of itself before anything was done to it. */
  document: ApiDocument;
  collection: Collection;
  /** Says no as this API does. */
  refuse(response: Response, wrong: Wrong[]): void;
}

/** Controls for those who look after an API: what it takes is changed, and it takes nothing else from then on. */
export function changing({ name, state, document, collection, refuse }: ChangingApi) {
  const edits = (): ApiEdit[] => state.value.edits ?? [];
  const fields = fieldsIn(document, collection);
  const change = (more: ApiEdit[]) => {
    state.value.edits = [...edits(), ...more];
    state.save();
  };
  const router = Router();
  router.post(`/${name}/changes`, express.urlencoded({ extended: false }), (request, response) => {
    const text = (key: string) => String((request.body as Record<string, unknown>)[key] ?? '').trim();
    const [field, what] = [text('field'), text('what')];
    if (what === 'back') state.value.edits = [];
    else if (
      isEdit(what) &&
      Object.hasOwn(fields, field) &&
      (what !== 'option-renamed' || optionsIn(fields[field]).length > 0)
    )
      change([{ field, what, to: wordFor(what, text('to'), collection) }]);
    state.save();
    response.redirect(303, `/${name}`);
  });

  /** Stands before the API: gives it what it took first, and answers as it is now. */
  const layer: RequestHandler = (request, response, next) => {
    const path = pathOf(collection, edits());
    const isAt = (at: string) => request.path === at || request.path.startsWith(`${at}/`);
    if (path !== collection.path) {
      if (isAt(collection.path)) return void response.status(404).json({ title: 'There is nothing at this path.' });
      if (isAt(path)) request.url = collection.path + request.url.slice(path.length);
    }
    if (edits().length === 0 || !isAt(collection.path)) return next();
    const located = response.location.bind(response);
    response.location = url => located(url.replace(`${collection.path}/`, `${path}/`));
    const answered = response.json.bind(response);
    response.json = body => answered(told(body));
    const { body, method } = request as { body: unknown; method: string };
    if (isRecord(body) && (method === 'POST' || method === 'PATCH' || method === 'PUT')) {
      const taken = asBefore(document, collection, edits(), body, method === 'POST');
      if ('wrong' in taken) return refuse(response, taken.wrong);
      request.body = taken.values;
    }
    next();
  };
  /** A record, or lists of them, as they are answered now. */
  const told = (body: unknown): unknown => {
    if (!isRecord(body)) return body;
    const record = asAfter(document, collection, edits(), body);
    return Object.fromEntries(
      Object.entries(record).map(([key, each]) => [
        key,
        Array.isArray(each) && each.every(isRecord)
          ? each.map(one => asAfter(document, collection, edits(), one))
          : each,
      ]),
    );
  };

  return {
    router,
    layer,
    change,
    /** What it says of itself now. */
    document: <T extends ApiDocument>(given: T): T => editedDocument(given, collection, edits()),
    section: (): Html =>
      changeSection({
        action: `/${name}/changes`,
        heading: 'Change what it takes',
        part: {
          name: 'field',
          label: 'Field to change',
          options: Object.fromEntries(Object.keys(fields).map(key => [key, key])),
        },
        kinds: apiEditKinds,
        isChanged: edits().length > 0,
      }),
  };
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isEdit = (what: string): what is ApiEdit['what'] => Object.hasOwn(apiEditKinds, what);

/** What something is to be, where nobody said it. */
const wordFor = (what: ApiEdit['what'], given: string, { path }: Collection): string =>
  what === 'moved' ? (/^\/[\w-]+$/.test(given) ? given : `${path}-2`) : given || 'another';
