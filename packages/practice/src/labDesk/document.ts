export const severities = ['low', 'normal', 'urgent'];

const text = (description: string, more: object = {}) => ({ type: 'string', description, ...more });
const given = (name: string) => ({ $ref: `#/components/schemas/${name}` });
const json = (schema: object) => ({ content: { 'application/json': { schema } } });
const refusal = (description: string) => ({ description, ...json(given('Refusal')) });

const own = {
  id: { type: 'string', readOnly: true },
  number: { type: 'integer', readOnly: true, description: 'The number people say' },
  state: { type: 'string', enum: ['open', 'closed'], readOnly: true },
};

/** The lab desk's OpenAPI document; `url` is where its API is, `tokens` where tokens are had. */
export const labDeskDocument = (url: string, tokens: string) => ({
  openapi: '3.0.3',
  info: { title: 'Lab desk', version: '2', description: 'Tickets of the laboratory that looks at our samples.' },
  servers: [{ url }],
  security: [{ client: [] }],
  components: {
    securitySchemes: {
      client: { type: 'oauth2', flows: { clientCredentials: { tokenUrl: tokens, scopes: { tickets: 'Tickets' } } } },
    },
    schemas: {
      Ticket: {
        type: 'object',
        required: ['subject', 'body'],
        properties: {
          ...own,
          subject: text('What it is about, in a line'),
          body: text('All there is to say', { maxLength: 4000 }),
          severity: { type: 'string', enum: severities },
          place: text('Where'),
          reporter: text('Who says so'),
          call_back: text('Whom to call'),
          wanted_by: text('When it is needed', { format: 'date' }),
          reading: { type: 'number', description: 'A measured value; kept with one digit behind the point' },
          labels: { type: 'array', items: { type: 'string' } },
        },
      },
      Attachment: {
        type: 'object',
        properties: {
          id: { type: 'string' },
          name: { type: 'string' },
          type: { type: 'string' },
          size: { type: 'integer' },
          caption: { type: 'string' },
        },
      },
      Refusal: {
        type: 'object',
        properties: { error: { type: 'object', properties: { message: { type: 'string' } } } },
      },
    },
  },
  paths: {
    '/tickets': {
      post: {
        operationId: 'openTicket',
        summary: 'Open a ticket',
        requestBody: { required: true, ...json(given('Ticket')) },
        responses: { '201': { description: 'Opened', ...json(given('Ticket')) }, '422': refusal('Not taken') },
      },
    },
    '/tickets/{id}': {
      parameters: [{ in: 'path', name: 'id', required: true, schema: { type: 'string' } }],
      get: {
        operationId: 'readTicket',
        summary: 'Read a ticket',
        responses: { '200': { description: 'The ticket', ...json(given('Ticket')) }, '404': refusal('There is none') },
      },
    },
    '/tickets/{id}/attachments': {
      parameters: [{ in: 'path', name: 'id', required: true, schema: { type: 'string' } }],
      post: {
        operationId: 'attachFile',
        summary: 'Attach a file to a ticket',
        requestBody: {
          required: true,
          content: {
            'multipart/form-data': {
              schema: {
                type: 'object',
                required: ['file'],
                properties: { file: { type: 'string', format: 'binary' }, caption: text('What it shows') },
              },
            },
          },
        },
        responses: {
          '201': { description: 'Attached', ...json(given('Attachment')) },
          '404': refusal('There is no such ticket'),
          '413': refusal('Too large'),
        },
      },
    },
  },
});
