import { interests } from './contact';

const text = (description: string, more: object = {}) => ({ type: 'string', description, ...more });
const contact = (required: string[]) => ({
  type: 'object',
  required,
  properties: {
    id: { type: 'string', readOnly: true },
    given_name: text('First name'),
    family_name: text('Last name'),
    email: text('E-mail address; no two contacts share one', { format: 'email' }),
    phone: text('Telephone number in E.164'),
    born: text('Date of birth', { format: 'date' }),
    postal: {
      type: 'object',
      properties: {
        street: text('Street and number'),
        town: text('Town'),
        postcode: text('Postcode'),
        country: text('Country, two letters (ISO 3166-1)', { maxLength: 2 }),
      },
    },
    interests: { type: 'array', items: { type: 'string', enum: interests } },
    may_contact: { type: 'boolean', description: 'Agreed to be written to' },
    tags: { type: 'array', items: { type: 'string' } },
    note: text('Note', { maxLength: 2000 }),
    created_at: { type: 'string', format: 'date-time', readOnly: true },
    updated_at: { type: 'string', format: 'date-time', readOnly: true },
  },
});

const json = (schema: object) => ({ content: { 'application/json': { schema } } });
const reference = (name: string) => ({ $ref: `#/components/schemas/${name}` });
const answer = (description: string, schema: object) => ({ description, ...json(schema) });
const refusal = (description: string) => ({
  description,
  content: { 'application/problem+json': { schema: reference('Problem') } },
});
const id = { in: 'path', name: 'id', required: true, schema: { type: 'string' } };

/** The roster's OpenAPI document; `url` is where its API is. */
export const rosterDocument = (url: string) => ({
  openapi: '3.1.0',
  info: { title: 'Roster', version: '1.0', description: 'The contacts of Alder Basin River Watch.' },
  servers: [{ url }],
  security: [{ key: [] }],
  components: {
    securitySchemes: { key: { type: 'apiKey', in: 'header', name: 'X-Roster-Key' } },
    schemas: {
      NewContact: contact(['given_name', 'email']),
      Contact: contact([]),
      Problem: {
        type: 'object',
        properties: {
          title: { type: 'string' },
          status: { type: 'integer' },
          errors: {
            type: 'array',
            items: { type: 'object', properties: { pointer: { type: 'string' }, detail: { type: 'string' } } },
          },
        },
      },
    },
  },
  paths: {
    '/contacts': {
      get: {
        operationId: 'findContacts',
        summary: 'Find contacts',
        parameters: [{ in: 'query', name: 'email', schema: { type: 'string' } }],
        responses: {
          '200': answer('Those found', {
            type: 'object',
            properties: { contacts: { type: 'array', items: reference('Contact') } },
          }),
        },
      },
      post: {
        operationId: 'createContact',
        summary: 'Create a contact',
        requestBody: { required: true, ...json(reference('NewContact')) },
        responses: {
          '201': answer('Created', reference('Contact')),
          '409': refusal('There is one with this e-mail address'),
          '422': refusal('Something in it can’t be taken'),
        },
      },
    },
    '/contacts/{id}': {
      parameters: [id],
      get: {
        operationId: 'readContact',
        summary: 'Read a contact',
        responses: { '200': answer('The contact', reference('Contact')), '404': refusal('There is none') },
      },
      patch: {
        operationId: 'updateContact',
        summary: 'Update a contact',
        requestBody: { required: true, ...json(reference('Contact')) },
        responses: {
          '200': answer('Updated', reference('Contact')),
          '404': refusal('There is none'),
          '422': refusal('Something in it can’t be taken'),
        },
      },
    },
  },
});
