import { asText, isJsonObject, type Json, type JsonObject } from '../../submission';

/** True for a document of Swagger 2.0 (OpenAPI Specification, version 2.0). */
export const isSwagger = (document: JsonObject): boolean => /^2\.0(\.|$)/.test(asText(document.swagger));

const list = (value: Json | undefined): Json[] => (Array.isArray(value) ? value : []);
const texts = (value: Json | undefined): string[] => list(value).map(asText).filter(Boolean);
const object = (value: Json | undefined): JsonObject => (isJsonObject(value) ? value : {});
const methods = ['get', 'post', 'put', 'patch', 'delete', 'head', 'options'];

/** Where definitions stand in 2.0, and where in 3.0. */
const places: [old: string, now: string][] = [
  ['#/definitions/', '#/components/schemas/'],
  ['#/parameters/', '#/components/parameters/'],
  ['#/responses/', '#/components/responses/'],
];

/** Levels of a document that are gone through. */
const DEEPEST = 100;

function withReferences(value: Json, depth = DEEPEST): Json {
  if (depth === 0 || typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) return value.map(each => withReferences(each, depth - 1));
  return Object.fromEntries(
    Object.entries(value).map(([name, each]) => {
      const place =
        name === '$ref' && typeof each === 'string' ? places.find(([old]) => each.startsWith(old)) : undefined;
      return [name, place ? place[1] + (each as string).slice(place[0].length) : withReferences(each, depth - 1)];
    }),
  );
}

/** What of a parameter in 2.0 is its schema in 3.0. */
const ofSchema = [
  'type',
  'format',
  'items',
  'enum',
  'default',
  'maximum',
  'minimum',
  'maxLength',
  'minLength',
  'pattern',
  'title',
];

const schemaOf = (parameter: JsonObject): JsonObject => {
  const schema = Object.fromEntries(ofSchema.flatMap(name => (name in parameter ? [[name, parameter[name]!]] : [])));
  return schema.type === 'file' ? { ...schema, type: 'string', format: 'binary' } : schema;
};

const contentOf = (types: readonly string[], schema: Json): JsonObject =>
  Object.fromEntries((types.length > 0 ? types : ['application/json']).map(type => [type, { schema }]));

interface Usual {
  consumes: string[];
  produces: string[];
  /** The document's own parameters: a reference to one of them may mean a body. */
  parameters: JsonObject;
}

/** The parameter itself, where it is a reference to one of the document's. */
function parameterOf(value: Json, { parameters }: Usual): JsonObject {
  const parameter = object(value);
  const name = asText(parameter.$ref).replace(/^#\/parameters\//, '');
  return typeof parameter.$ref === 'string' && Object.hasOwn(parameters, name) ? object(parameters[name]) : parameter;
}

function bodyFrom(parameters: JsonObject[], consumes: string[]): JsonObject | null {
  const body = parameters.find(each => each.in === 'body');
  if (body)
    return {
      ...(body.required !== undefined && { required: body.required }),
      ...(body.description !== undefined && { description: body.description }),
      content: contentOf(consumes, body.schema ?? {}),
    };
  const parts = parameters.filter(each => each.in === 'formData');
  if (parts.length === 0) return null;
  const usual = parts.some(each => each.type === 'file') ? 'multipart/form-data' : 'application/x-www-form-urlencoded';
  const types = consumes.filter(type => /^(multipart\/form-data|application\/x-www-form-urlencoded)$/i.test(type));
  const schema: JsonObject = {
    type: 'object',
    properties: Object.fromEntries(
      parts.map(each => [
        asText(each.name),
        { ...schemaOf(each), ...(each.description !== undefined && { description: each.description }) },
      ]),
    ),
  };
  const required = parts.filter(each => each.required === true).map(each => asText(each.name));
  // An empty list of them is none (JSON Schema draft 4, §5.4.3).
  if (required.length > 0) schema.required = required;
  return { content: contentOf(types.length > 0 ? types : [usual], schema) };
}

const plainParameter = (parameter: JsonObject): Json => ({
  name: parameter.name ?? '',
  in: parameter.in ?? '',
  ...(parameter.required !== undefined && { required: parameter.required }),
  ...(parameter.description !== undefined && { description: parameter.description }),
  schema: schemaOf(parameter),
});

const isPlain = ({ in: where }: JsonObject): boolean => where === 'path' || where === 'query' || where === 'header';

function responseFrom(value: Json, produces: string[]): Json {
  const { schema, headers: _, examples: _examples, ...rest } = object(value);
  return schema === undefined ? rest : { ...rest, content: contentOf(produces, schema) };
}

function operationFrom(operation: JsonObject, shared: JsonObject[], usual: Usual): JsonObject {
  const { parameters: own, responses, consumes, produces, schemes: _, ...rest } = operation;
  const all = [...shared, ...list(own).map(each => parameterOf(each, usual))];
  const gives = produces === undefined ? usual.produces : texts(produces);
  const body = bodyFrom(all, consumes === undefined ? usual.consumes : texts(consumes));
  return {
    ...rest,
    parameters: all.filter(isPlain).map(plainParameter),
    ...(body && { requestBody: body }),
    responses: Object.fromEntries(
      Object.entries(object(responses)).map(([status, each]) => [status, responseFrom(each, gives)]),
    ),
  };
}

function schemeFrom(value: Json): Json {
  const scheme = object(value);
  if (scheme.type === 'basic') return { type: 'http', scheme: 'basic' };
  if (scheme.type !== 'oauth2') return scheme;
  const flows: Record<string, string> = {
    application: 'clientCredentials',
    accessCode: 'authorizationCode',
    password: 'password',
    implicit: 'implicit',
  };
  const flow = flows[asText(scheme.flow)];
  const { tokenUrl, authorizationUrl, scopes = {} } = scheme;
  const described = {
    ...(tokenUrl !== undefined && { tokenUrl }),
    ...(authorizationUrl !== undefined && { authorizationUrl }),
    scopes,
  };
  return { type: 'oauth2', flows: flow ? { [flow]: described } : {} };
}

function serversOf({ host, basePath, schemes }: JsonObject): Json[] {
  const path = asText(basePath);
  if (asText(host) === '') return path === '' ? [] : [{ url: path }];
  const all = texts(schemes);
  return (all.length > 0 ? all : ['https']).map(scheme => ({ url: `${scheme}://${asText(host)}${path}` }));
}

/**
 * A document of Swagger 2.0 as one of OpenAPI 3.0, as far as operations, their fields, their answers and who may ask are told in it
 * (OpenAPI Specification 2.0 and 3.0.3). Never throws.
 */
export function fromSwagger(document: JsonObject): JsonObject {
  const usual: Usual = {
    consumes: texts(document.consumes),
    produces: texts(document.produces),
    parameters: object(document.parameters),
  };
  const paths = Object.entries(object(document.paths)).map(([path, value]): [string, Json] => {
    const item = object(value);
    const shared = list(item.parameters).map(each => parameterOf(each, usual));
    const operations = methods.flatMap((method): [string, Json][] =>
      isJsonObject(item[method]) ? [[method, operationFrom(item[method], shared, usual)]] : [],
    );
    return [path, Object.fromEntries(operations)];
  });
  const responses = Object.entries(object(document.responses)).map(([name, each]) => [
    name,
    responseFrom(each, usual.produces),
  ]);
  const schemes = Object.entries(object(document.securityDefinitions)).map(([name, each]) => [name, schemeFrom(each)]);
  const converted: JsonObject = {
    openapi: '3.0.3',
    info: document.info ?? { title: '', version: '' },
    servers: serversOf(document),
    ...(document.security !== undefined && { security: document.security }),
    paths: Object.fromEntries(paths),
    components: {
      schemas: object(document.definitions),
      responses: Object.fromEntries(responses) as JsonObject,
      securitySchemes: Object.fromEntries(schemes) as JsonObject,
    },
  };
  return withReferences(converted) as JsonObject;
}
