import { documentChanges, type DocumentChange } from '@grammata/core/drift';
import type { Json, JsonObject } from '@grammata/core/submission';
import { Chance } from '../reading/draw';
import { emptyScore, type DriftScore } from './forms';

/** A property of a resource that is drawn. */
interface Property {
  name: string;
  schema: JsonObject;
  required: boolean;
}

interface Resource {
  path: string;
  properties: Property[];
  query: Property[];
}

const nouns = ['visits', 'samples', 'members', 'boats', 'moorings', 'reports', 'kits', 'sites', 'teams', 'orders'];
const names = [
  'name',
  'mail',
  'phone',
  'started_on',
  'amount',
  'state',
  'notes',
  'colour',
  'weight',
  'town',
  'postcode',
  'leader',
  'size',
  'reason',
];
const words = ['red', 'green', 'blue', 'open', 'closed', 'waiting', 'small', 'large', 'north', 'south'];

function property(name: string, chance: Chance): Property {
  const schemas: (() => JsonObject)[] = [
    () => ({ type: 'string', maxLength: 20 + chance.below(200) }),
    () => ({ type: 'string' }),
    () => ({ type: 'integer', minimum: chance.below(3), maximum: 50 + chance.below(100) }),
    () => ({ type: 'number' }),
    () => ({ type: 'boolean' }),
    () => ({ type: 'string', format: chance.of(['date', 'date-time', 'email', 'uri']) }),
    () => ({ type: 'string', enum: chance.some(words, 3) }),
    () => ({ type: 'array', items: { type: 'string' }, maxItems: 3 + chance.below(9) }),
    () => ({
      type: 'object',
      required: ['line'],
      properties: { line: { type: 'string' }, floor: { type: 'integer' }, note: { type: 'string', maxLength: 80 } },
    }),
  ];
  return { name, schema: chance.of(schemas)(), required: chance.is(0.4) };
}

const resourceOf = (noun: string, chance: Chance): Resource => ({
  path: `/${noun}`,
  properties: chance.some(names, 5).map(name => property(name, chance)),
  query: chance.is(0.6)
    ? [property('page', chance), property('since', chance)].map(each => ({ ...each, schema: { type: 'string' } }))
    : [],
});

/** A document of resources, plain. */
function documentOf(
  resources: Resource[],
  style: { refs: boolean; allOf: boolean; words: string; base: string; reversed: boolean },
): Json {
  const schemas: JsonObject = {};
  const paths: JsonObject = {};
  const order = <T>(all: T[]) => (style.reversed ? all.toReversed() : all);
  for (const { path, properties, query } of order(resources)) {
    const schemaOf = (of: Property[]): JsonObject => ({
      type: 'object',
      ...(of.some(each => each.required) && { required: of.filter(each => each.required).map(each => each.name) }),
      properties: Object.fromEntries(
        order(of).map(({ name, schema }) => [name, { ...schema, description: `${style.words} ${name}` }]),
      ),
    });
    const half = Math.ceil(properties.length / 2);
    const whole: JsonObject =
      style.allOf && properties.length > 2
        ? { allOf: [schemaOf(properties.slice(0, half)), schemaOf(properties.slice(half))] }
        : schemaOf(properties);
    const name = path.split('/').at(-1)!;
    schemas[name] = { ...whole, ...(style.words && { example: {} }) };
    const body = {
      content: { 'application/json': { schema: style.refs ? { $ref: `#/components/schemas/${name}` } : whole } },
    };
    const answers = {
      '201': {
        description: style.words,
        content: {
          'application/json': {
            schema: { type: 'object', properties: { id: { type: style.reversed ? 'string' : 'integer' } } },
          },
        },
      },
    };
    paths[`${style.base}${path}`] = {
      post: { operationId: `add_${name}`, summary: `${style.words} add`, requestBody: body, responses: answers },
      get: {
        parameters: query.map(each => ({ name: each.name, in: 'query', required: each.required, schema: each.schema })),
        responses: answers,
      },
    };
    paths[`${style.base}${path}/{${style.reversed ? 'key' : 'id'}}`] = {
      patch: { requestBody: body, responses: answers },
    };
  }
  return {
    openapi: '3.1.0',
    info: { title: style.words, version: '1' },
    servers: [{ url: `https://api.example.org${style.base === '' ? '/v1' : ''}` }],
    paths,
    ...(style.refs && { components: { schemas } }),
  };
}

type Wanted = Pick<DocumentChange, 'change' | 'operation' | 'field'>;

/** Both operations that send a resource tell of a change to it. */
const both = (path: string, change: DocumentChange['change'], field: string): Wanted[] =>
  [`POST ${path}`, `PATCH ${path}/{id}`].map(operation => ({ change, operation, field }));

const changed = (resource: Resource, one: Property, other: Partial<Property> | null): Resource => ({
  ...resource,
  properties: resource.properties.flatMap(each =>
    each !== one ? [each] : other === null ? [] : [{ ...each, ...other }],
  ),
});

type Edit = (resource: Resource, chance: Chance) => { after: Resource | null; wanted: Wanted[] } | null;

const pick = (resource: Resource, chance: Chance, fits: (schema: JsonObject) => boolean): Property | null => {
  const all = resource.properties.filter(({ schema }) => fits(schema));
  return all.length === 0 ? null : chance.of(all);
};
const isPlain = ({ type }: JsonObject) => type !== 'object';

const edits: Record<string, Edit> = {
  'operation-gone': resource => ({
    after: null,
    wanted: [`POST ${resource.path}`, `GET ${resource.path}`, `PATCH ${resource.path}/{id}`].map(operation => ({
      change: 'operation-gone' as const,
      operation,
    })),
  }),
  'operation-moved': resource => ({
    after: { ...resource, path: `/desk${resource.path}` },
    wanted: [`POST ${resource.path}`, `GET ${resource.path}`, `PATCH ${resource.path}/{id}`].map(operation => ({
      change: 'operation-moved' as const,
      operation,
    })),
  }),
  'field-added': (resource, chance) => ({
    after: {
      ...resource,
      properties: [...resource.properties, { name: 'lantern', schema: { type: 'string' }, required: chance.is(0.5) }],
    },
    wanted: both(resource.path, 'field-added', '/lantern'),
  }),
  'field-gone': (resource, chance) => {
    const one = pick(resource, chance, isPlain);
    return one && { after: changed(resource, one, null), wanted: both(resource.path, 'field-gone', `/${one.name}`) };
  },
  'field-renamed': (resource, chance) => {
    const one = pick(resource, chance, isPlain);
    const name = one && chance.of([`${one.name}_text`, `visit_${one.name}`, one.name.toUpperCase()]);
    return one && name
      ? { after: changed(resource, one, { name }), wanted: both(resource.path, 'field-renamed', `/${one.name}`) }
      : null;
  },
  required: (resource, chance) => {
    const all = resource.properties.filter(each => !each.required);
    const one = all.length > 0 ? chance.of(all) : null;
    return (
      one && {
        after: changed(resource, one, { required: true }),
        wanted: both(resource.path, 'required', `/${one.name}`),
      }
    );
  },
  optional: (resource, chance) => {
    const all = resource.properties.filter(each => each.required);
    const one = all.length > 0 ? chance.of(all) : null;
    return (
      one && {
        after: changed(resource, one, { required: false }),
        wanted: both(resource.path, 'optional', `/${one.name}`),
      }
    );
  },
  'option-added': (resource, chance) => {
    const one = pick(resource, chance, each => Array.isArray(each.enum));
    return (
      one && {
        after: changed(resource, one, {
          schema: { ...one.schema, enum: [...(one.schema.enum as string[]), 'kingfisher'] },
        }),
        wanted: both(resource.path, 'option-added', `/${one.name}`),
      }
    );
  },
  'option-gone': (resource, chance) => {
    const one = pick(resource, chance, each => Array.isArray(each.enum));
    return (
      one && {
        after: changed(resource, one, { schema: { ...one.schema, enum: (one.schema.enum as string[]).slice(1) } }),
        wanted: both(resource.path, 'option-gone', `/${one.name}`),
      }
    );
  },
  'option-renamed': (resource, chance) => {
    const one = pick(resource, chance, each => Array.isArray(each.enum));
    const [first, ...others] = one ? (one.schema.enum as string[]) : [];
    return one && first
      ? {
          after: changed(resource, one, { schema: { ...one.schema, enum: [`${first} one`, ...others] } }),
          wanted: both(resource.path, 'option-renamed', `/${one.name}`),
        }
      : null;
  },
  type: (resource, chance) => {
    const one = pick(
      resource,
      chance,
      each =>
        each.type === 'number' ||
        (each.type === 'string' &&
          each.format === undefined &&
          each.enum === undefined &&
          each.maxLength === undefined),
    );
    return (
      one && {
        after: changed(resource, one, { schema: { type: one.schema.type === 'number' ? 'string' : 'boolean' } }),
        wanted: both(resource.path, 'type', `/${one.name}`),
      }
    );
  },
  format: (resource, chance) => {
    const one = pick(resource, chance, each => each.format !== undefined);
    return (
      one && {
        after: changed(resource, one, {
          schema: { ...one.schema, format: one.schema.format === 'uuid' ? 'date' : 'uuid' },
        }),
        wanted: both(resource.path, 'format', `/${one.name}`),
      }
    );
  },
  narrowed: (resource, chance) => {
    const one = pick(resource, chance, each => typeof each.maxLength === 'number' || typeof each.maximum === 'number');
    const limit = one?.schema.maxLength !== undefined ? 'maxLength' : 'maximum';
    return (
      one && {
        after: changed(resource, one, { schema: { ...one.schema, [limit]: (one.schema[limit] as number) - 7 } }),
        wanted: both(resource.path, 'narrowed', `/${one.name}`),
      }
    );
  },
  widened: (resource, chance) => {
    const one = pick(resource, chance, each => typeof each.maxLength === 'number' || typeof each.maxItems === 'number');
    const limit = one?.schema.maxLength !== undefined ? 'maxLength' : 'maxItems';
    return (
      one && {
        after: changed(resource, one, { schema: { ...one.schema, [limit]: (one.schema[limit] as number) + 9 } }),
        wanted: both(resource.path, 'widened', `/${one.name}`),
      }
    );
  },
};

const plain = { refs: false, allOf: false, words: 'The', base: '', reversed: false };

/** Draws two documents, one of four times with nothing but another way of saying the same. */
export function documentCase(seed: number): { how: string; before: Json; after: Json; wanted: Wanted[] } | null {
  const chance = new Chance(seed);
  const resources = chance.some(nouns, 3).map(noun => resourceOf(noun, chance));
  const isClean = chance.is(0.25);
  const edit = chance.of(Object.keys(edits));
  const at = chance.below(resources.length);
  const made = isClean ? { after: resources[at]!, wanted: [] } : edits[edit]!(resources[at]!, chance);
  if (!made) return null;
  const after = resources.flatMap((each, place) => (place === at ? (made.after ?? []) : [each]));
  // What was changed comes with a refactoring as often as not.
  const style =
    isClean || chance.is(0.5)
      ? {
          refs: chance.is(0.5),
          allOf: chance.is(0.5),
          words: 'Any',
          base: chance.is(0.3) ? '/v1' : '',
          reversed: chance.is(0.5),
        }
      : plain;
  return {
    how: `${seed} ${isClean ? 'clean' : edit}`,
    before: documentOf(resources, { ...plain, refs: chance.is(0.5) }),
    after: documentOf(after, style),
    wanted: made.wanted,
  };
}

export function documentScore(count: number, from = 1): DriftScore {
  const score = emptyScore();
  for (let seed = from; score.cases < count; seed++) {
    const one = documentCase(seed);
    if (!one) continue;
    score.cases += 1;
    const told = documentChanges(one.before, one.after) ?? [];
    if (one.wanted.length === 0) score.clean += 1;
    if (one.wanted.length === 0 && told.length > 0) score.falseAlarms += 1;
    const left = [...told];
    for (const each of one.wanted) {
      const at = left.findIndex(
        other => other.change === each.change && other.operation === each.operation && other.field === each.field,
      );
      if (at >= 0) {
        left.splice(at, 1);
        score.right += 1;
      } else {
        score.missed += 1;
        score.notes.push(`${one.how}: missed ${JSON.stringify(each)}`);
      }
    }
    score.wrong += left.length;
    for (const each of left) score.notes.push(`${one.how}: wrong ${JSON.stringify(each)}`);
  }
  return score;
}
