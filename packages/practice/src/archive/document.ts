const text = (description: string) => ({ type: 'string', description });
const whole = { type: 'integer' };
const given = (name: string) => ({ $ref: `#/components/schemas/${name}` });
const json = (schema: object) => ({ content: { 'application/json': { schema } } });
const response = (schema: object, description = 'As it is') => ({ description, ...json(schema) });
const object = (properties: Record<string, object>, required: string[] = []) => ({
  type: 'object',
  properties,
  ...(required.length > 0 && { required }),
});
const list = (items: object) => ({ type: 'array', items });
const inPath = (name: string, schema: object) => ({ name, in: 'path', required: true, schema });

/** What a note is about: sent as a number, called by a name. */
export const NOTE_KINDS: Readonly<Record<number, string>> = { 1: 'Damage', 2: 'Label', 3: 'Place' };
const noteKind = {
  ...whole,
  description: 'What it is about',
  enum: Object.keys(NOTE_KINDS).map(Number),
  'x-enumNames': Object.values(NOTE_KINDS),
};

/** The specimen archive's OpenAPI document; `url` is where its API is. */
export const archiveDocument = (url: string) => ({
  openapi: '3.0.3',
  info: {
    title: 'Specimen archive',
    version: '1',
    description: 'What was taken home from the river, and notes on it.',
  },
  servers: [{ url }],
  security: [{ key: [] }],
  components: {
    securitySchemes: { key: { type: 'apiKey', in: 'header', name: 'X-Archive-Key' } },
    schemas: {
      Attributes: object({
        label: text('As it is written on the jar'),
        site: text('Where it was taken'),
        state: text('How it is'),
      }),
      Item: object({ id: whole, attributes: given('Attributes') }),
      Tag: object({ id: whole, name: text('One word') }),
      NewNote: object(
        {
          specimen_id: whole,
          text: text('What there is to say'),
          shelf: text('Where it stands'),
          kind: noteKind,
        },
        ['specimen_id', 'text'],
      ),
    },
  },
  paths: {
    '/specimens/search': {
      post: {
        operationId: 'searchSpecimens',
        summary: 'Search specimens',
        requestBody: json(object({ filter: object({ label: text('Part of a label') }), limit: whole })),
        responses: { 200: response(object({ data: object({ items: list(given('Item')), total: whole }) })) },
      },
    },
    '/specimens/labelled/{label}': {
      get: {
        operationId: 'specimenLabelled',
        summary: 'Specimen by its label',
        parameters: [inPath('label', { type: 'string' })],
        responses: {
          200: response(object({ specimen: object({ id: whole, label: { type: 'string' } }) })),
          404: { description: 'None' },
        },
      },
    },
    '/specimens': {
      post: {
        operationId: 'addSpecimen',
        summary: 'Add a specimen',
        requestBody: {
          required: true,
          ...json({
            ...object(
              {
                label: text('As it is written on the jar'),
                site: text('Where it was taken'),
                state: text('How it is'),
                custom: list(object({ name: text('Which'), value: text('What') })),
                measures: list(list({ type: 'string' })),
              },
              ['label'],
            ),
          }),
        },
        responses: {
          201: response(object({ specimen: object({ id: whole }) }), 'Added'),
          409: { description: 'There is one' },
        },
      },
    },
    '/specimens/{id}': {
      get: {
        operationId: 'readSpecimen',
        summary: 'Read a specimen',
        parameters: [inPath('id', whole)],
        responses: { 200: response(object({ id: whole, shelf: text('Where it stands'), tags: list(given('Tag')) })) },
      },
      patch: {
        operationId: 'changeSpecimen',
        summary: 'Change a specimen',
        parameters: [inPath('id', whole)],
        requestBody: json(object({ site: text('Where it was taken'), state: text('How it is') })),
        responses: { 200: response(object({ id: whole })) },
      },
    },
    '/loans': {
      post: {
        operationId: 'lend',
        summary: 'Lend a specimen',
        requestBody: {
          required: true,
          ...json(object({ specimen_id: whole, borrower: text('Who takes it') }, ['specimen_id', 'borrower'])),
        },
        responses: { 200: response(object({ state: text('yes or no'), text: text('Why not') }), 'What came of it') },
      },
    },
    '/notes': {
      post: {
        operationId: 'addNote',
        summary: 'Add a note',
        requestBody: {
          required: true,
          ...json(given('NewNote')),
        },
        responses: { 201: response(object({ note: object({ id: whole }) }), 'Added') },
      },
    },
  },
});
