import {
  blankPolicies,
  changedChoices,
  entryShapes,
  failureChoices,
  noneChoices,
  problemPolicies,
  severalChoices,
  successKinds,
  writings,
} from '../route';
import { patterns } from '../proof';
import type { Json } from '../submission';
import { bodyKinds, methods, targetTypes } from '../target';
import { stepIds } from '../transform';

/** JSON Schemas (2020-12) of the files of a workspace: editors complete and check by them. */

const dialect = 'https://json-schema.org/draft/2020-12/schema';
const text = { type: 'string' } as const;
const flag = { type: 'boolean' } as const;
const list = (items: Json): Json => ({ type: 'array', items });
const one = (values: readonly string[]): Json => ({ enum: [...values] });
const object = (properties: Record<string, Json>, required: string[], more: boolean | Json = false): Json => ({
  type: 'object',
  properties,
  required,
  additionalProperties: more,
});
const orNull = (schema: Json): Json => ({ anyOf: [schema, { type: 'null' }] });
const pointer: Json = { type: 'string', pattern: '^(/([^~/]|~[01])*)*$' };

const step = object({ id: one(stepIds), params: { type: 'object' }, off: flag }, ['id', 'params']);
const part: Json = object({ name: text, source: {}, cleaning: list(step) }, ['name', 'source', 'cleaning']);
const source: Json = {
  oneOf: [
    { type: 'null' },
    object({ from: { const: 'field' }, field: text }, ['from', 'field']),
    object({ from: { const: 'first' }, fields: list(text) }, ['from', 'fields']),
    object({ from: { const: 'text' }, segments: list({ type: 'object' }), html: flag }, ['from', 'segments']),
    object({ from: { const: 'constant' }, value: {} }, ['from', 'value']),
    object({ from: { const: 'rest' } }, ['from']),
    object(
      {
        from: { const: 'list' },
        entries: list(object({ id: text, each: text, as: one(entryShapes), parts: list(part) }, ['id', 'as', 'parts'])),
      },
      ['from', 'entries'],
    ),
  ],
};
const line = object(
  {
    id: text,
    to: text,
    source,
    cleaning: list(step),
    whenBlank: one(blankPolicies),
    whenProblem: one(problemPolicies),
    fallback: {},
    writes: one(writings),
    copies: flag,
    declined: flag,
  },
  ['id', 'to', 'source', 'cleaning', 'whenBlank', 'whenProblem', 'fallback'],
);
const update = object({ operationId: text, to: text, from: pointer }, ['operationId', 'to', 'from']);
const find = object(
  {
    operationId: text,
    line,
    lines: list(line),
    readsOnly: flag,
    list: text,
    equals: text,
    takesAny: flag,
    whenNone: one(noneChoices),
    whenSeveral: one(severalChoices),
    update: orNull(update),
  },
  ['operationId', 'line', 'list', 'equals', 'whenNone', 'whenSeveral', 'update'],
);
const call = object(
  {
    id: text,
    name: text,
    target: text,
    operationId: text,
    lines: list(line),
    condition: orNull({ type: 'object' }),
    repeat: orNull(text),
    whenFailed: one(failureChoices),
    find: orNull(find),
    identity: orNull(object({ found: text, made: text }, ['found', 'made'])),
    readBack: orNull(update),
    retry: orNull({ type: 'object' }),
    pages: orNull(text),
    success: orNull(
      object({ by: one(successKinds), pointer: text, values: orNull(list(text)) }, ['by', 'pointer', 'values']),
    ),
  },
  ['id', 'target', 'operationId', 'lines'],
);
const field = object(
  {
    key: text,
    in: one(['path', 'query', 'header']),
    pointer: text,
    label: text,
    type: one(targetTypes),
    required: flag,
    readOnly: flag,
    options: orNull(list(text)),
    optionNames: { type: 'object', additionalProperties: text },
    fixed: {},
    maxLength: orNull({ type: 'integer' }),
    description: orNull(text),
    items: one(['number', 'integer', 'boolean']),
    format: one(['email', 'addresses', 'uri', 'line']),
    minimum: { type: 'number' },
    maximum: { type: 'number' },
    pattern: text,
  },
  ['key', 'pointer', 'label', 'type', 'required', 'readOnly', 'options', 'maxLength', 'description'],
);
const operation = object(
  {
    id: text,
    label: text,
    method: one(methods),
    path: text,
    body: one(bodyKinds),
    grows: flag,
    root: text,
    fields: list(field),
    reads: flag,
    graphql: text,
    answer: list({ type: 'object' }),
    answersPage: flag,
  },
  ['id', 'label', 'method', 'path', 'fields'],
);

const named = (title: string, schema: Json): Json => ({ $schema: dialect, title, ...(schema as Record<string, Json>) });
const reference = { $schema: text };

const submission: Json = { type: 'object', required: ['fields', 'files', 'questions', 'meta'] };
const fileName = '^[a-z0-9-]+$';

export const workspaceSchemas: Record<'intake' | 'sample' | 'target' | 'route' | 'proof', Json> = {
  intake: named(
    'An intake of a Grammata workspace',
    object(
      {
        ...reference,
        name: text,
        settings: { type: 'object' },
        forms: {
          type: 'object',
          propertyNames: { pattern: fileName },
          additionalProperties: object({ name: text, key: text }, ['name', 'key']),
        },
      },
      ['name', 'settings', 'forms'],
    ),
  ),
  sample: named(
    'A sample of a form of a Grammata workspace',
    object({ ...reference, name: text, submission }, ['name', 'submission']),
  ),
  target: named(
    'A target of a Grammata workspace',
    object(
      {
        ...reference,
        name: text,
        baseUrl: text,
        reached: { type: 'object' },
        operations: list(operation),
        own: list(
          object({ id: text, operation: orNull(operation), was: orNull(operation) }, ['id', 'operation', 'was']),
        ),
      },
      ['name', 'baseUrl', 'operations'],
    ),
  ),
  route: named(
    'A route of a Grammata workspace',
    object(
      {
        ...reference,
        format: { const: 1 },
        name: text,
        form: { type: 'string', pattern: '^[a-z0-9-]+/[a-z0-9-]+$' },
        condition: { type: 'object' },
        calls: { ...(list(call) as Record<string, Json>), minItems: 1 },
        terms: object(
          {
            hours: { type: 'number' },
            needsTrial: flag,
            whenChanged: one(changedChoices),
            holdHours: { type: 'number' },
            timeZone: text,
          },
          ['hours', 'timeZone'],
        ),
      },
      ['format', 'name', 'form', 'condition', 'calls', 'terms'],
    ),
  ),
  proof: named(
    'A proof of a Grammata workspace',
    object(
      {
        ...reference,
        name: text,
        submission,
        answers: { type: 'object' },
        approved: object(
          {
            goes: flag,
            requests: list({ type: 'object', required: ['callId', 'item', 'purpose', 'method', 'url', 'body'] }),
            held: list(object({ code: text, message: text }, ['code', 'message'])),
          },
          ['goes', 'requests', 'held'],
        ),
        loose: list(object({ callId: text, pointer, pattern: one(patterns) }, ['callId', 'pointer', 'pattern'])),
        calls: list(call),
      },
      ['name', 'submission', 'answers', 'approved', 'loose', 'calls'],
    ),
  ),
};
