import type { Json } from '../submission';
import { readOpenApi, type Operation } from '../target';
import { reporting, reports } from '../testing';
import { holdsThen, supposeDocument, type Workspace } from '.';

const properties = {
  site: { type: 'string', enum: ['AB-07', 'AB-02'] },
  ph: { type: 'number' },
  note: { type: 'string', maxLength: 40 },
};
const documentWith = (more: Record<string, object>, required = ['site']): Json =>
  ({
    openapi: '3.1.0',
    info: { title: 'Register', version: '1' },
    paths: {
      '/r': {
        post: {
          operationId: 'create',
          requestBody: {
            content: {
              'application/json': { schema: { type: 'object', required, properties: { ...properties, ...more } } },
            },
          },
        },
      },
    },
  }) as unknown as Json;
function offered(document: Json): Operation[] {
  const read = readOpenApi(document);
  if ('fault' in read) throw new Error(read.fault);
  return read.operations;
}
const form = {
  name: 'Reports',
  key: '',
  samples: reports.map((submission, at) => ({ name: `Sample ${at}`, submission })),
};
const workspace: Workspace = {
  intakes: [{ name: 'Reports', settings: {}, forms: [form] }],
  targets: [
    { id: 't', name: 'Register', baseUrl: 'https://r.example.org', operations: offered(documentWith({})), reached: {} },
  ],
  routes: [
    { form, definition: reporting, proofs: [] },
    { form, definition: { ...reporting, name: 'Elsewhere', calls: [] }, proofs: [] },
  ],
};

test.each<[string, Json, string[], number, boolean]>([
  ['as it is', documentWith({}), [], 0, true],
  ['takes something more', documentWith({ depth: { type: 'number' } }), ['field-added'], 0, true],
  [
    'requires what no line fills',
    documentWith({ depth: { type: 'number' } }, ['site', 'depth']),
    ['field-added'],
    4,
    false,
  ],
  [
    'calls an option otherwise',
    documentWith({ site: { type: 'string', enum: ['AB-07', 'AB-02 (new)'] } }),
    ['option-renamed'],
    2,
    false,
  ],
  ['takes less', documentWith({ note: { type: 'string', maxLength: 3 } }), ['narrowed'], 4, false],
])('a target that %s', (_, document, changes, heldThen, holds) => {
  const told = supposeDocument(workspace, 'Register', document);
  if ('fault' in told) throw new Error(told.fault);
  expect(told.changes.map(each => each.change)).toEqual(changes);
  // Those that go elsewhere are none of it.
  expect(told.routes).toMatchObject([{ route: 'R', samples: { looked: 4, held: 0, heldThen }, proofs: { total: 0 } }]);
  expect(holdsThen(told)).toBe(holds);
});

test.each<[string, string, Json]>([
  ['no such target', 'Ledger', documentWith({})],
  ['no document', 'Register', { a: 1 }],
])('%s is told as a fault', (_, name, document) =>
  expect(supposeDocument(workspace, name, document)).toEqual({ fault: expect.any(String) }),
);
