import {
  buildClientSchema,
  buildSchema,
  getNullableType,
  GraphQLError,
  isEnumType,
  isInputObjectType,
  isListType,
  isNonNullType,
  isScalarType,
  type GraphQLArgument,
  type GraphQLField,
  type GraphQLInputField,
  type GraphQLInputType,
  type GraphQLNamedInputType,
  type GraphQLSchema,
  type IntrospectionQuery,
} from 'graphql';
import { isJsonObject, labelFromKey, parseJson, pointerOf, type Json } from '../submission';
import type { Operation, TargetField, TargetType } from '../target';
import { selectionOf } from './selection';

/** What a GraphQL schema offers. */
export interface ReadGraphql {
  operations: Operation[];
  /** What was not read, in sentences. */
  notes: string[];
}

const limits = { operations: 2000, fields: 400, nesting: 6 };

/**
 * Mutations and queries of a GraphQL schema as operations: from its text (schema definition language), or from the answer to an
 * introspection query (GraphQL, October 2021, §3 and §4). Never throws.
 * @param path where requests go, below the target's base address
 */
export function readGraphql(text: string, path: string): ReadGraphql | { fault: string } {
  const schema = schemaIn(text);
  if ('fault' in schema) return schema;
  const notes = new Set<string>();
  const kinds = [
    { kind: 'mutation' as const, type: schema.getMutationType() },
    { kind: 'query' as const, type: schema.getQueryType() },
  ];
  const operations = kinds.flatMap(({ kind, type }) =>
    Object.values(type?.getFields() ?? {}).map(field => operationOf(kind, field, path, notes)),
  );
  if (operations.length === 0) return { fault: 'The schema has no mutation and no query.' };
  if (operations.length > limits.operations) notes.add(`Only the first ${limits.operations} operations are read.`);
  return { operations: operations.slice(0, limits.operations), notes: [...notes] };
}

function schemaIn(text: string): GraphQLSchema | { fault: string } {
  const document = parseJson(text.trim());
  try {
    if (document === undefined) {
      if (!/\b(type|schema|input|interface|enum|scalar|union)\s+\w/.test(text))
        return { fault: 'Not a GraphQL schema: neither schema text nor an introspection response.' };
      return buildSchema(text, { assumeValidSDL: true });
    }
    const introspection = introspectionIn(document);
    if (!introspection) return { fault: complaint(document) };
    return buildClientSchema(introspection, { assumeValid: true });
  } catch (error) {
    const at = error instanceof GraphQLError && error.locations?.[0] ? ` (line ${error.locations[0].line})` : '';
    return { fault: `The schema can’t be read: ${(error as Error).message}${at}` };
  }
}

/** The schema in an answer, or alone. */
function introspectionIn(document: Json): IntrospectionQuery | null {
  const data = isJsonObject(document) ? (isJsonObject(document.data ?? null) ? document.data : document) : null;
  return isJsonObject(data ?? null) && isJsonObject((data as { __schema?: Json }).__schema ?? null)
    ? (data as unknown as IntrospectionQuery)
    : null;
}

function complaint(document: Json): string {
  const errors = isJsonObject(document) && Array.isArray(document.errors) ? document.errors : [];
  const [first] = errors.filter(isJsonObject);
  return typeof first?.message === 'string'
    ? `It does not tell its schema: ${first.message}`
    : 'Not an introspection response.';
}

function operationOf(
  kind: 'mutation' | 'query',
  field: GraphQLField<unknown, unknown>,
  path: string,
  notes: Set<string>,
): Operation {
  const fields: TargetField[] = [];
  for (const argument of field.args)
    collect(
      argument,
      [argument.name],
      isNonNullType(argument.type) && argument.defaultValue === undefined,
      [],
      fields,
      notes,
    );
  const selection = selectionOf(field.type, field.name);
  return {
    id: `${kind} ${field.name}`,
    label: firstSentence(field.description) ?? labelFromKey(field.name),
    method: 'POST',
    path,
    body: 'json',
    ...(kind === 'query' && { reads: true }),
    graphql: documentOf(kind, field, selection.text),
    fields,
    answer: selection.fields,
  };
}

/** The document that is sent: the one field with its arguments as variables (GraphQL §2.10), and what is asked of its answer. */
function documentOf(
  kind: 'mutation' | 'query',
  { name, args }: GraphQLField<unknown, unknown>,
  selection: string,
): string {
  const declared = args.map(each => `$${each.name}: ${String(each.type)}`).join(', ');
  const passed = args.map(each => `${each.name}: $${each.name}`).join(', ');
  const title = name.charAt(0).toUpperCase() + name.slice(1);
  return `${kind} ${title}${declared && `(${declared})`} {\n  ${name}${passed && `(${passed})`}${selection}\n}`;
}

function firstSentence(description: string | null | undefined): string | null {
  const line = description
    ?.trim()
    .split(/\n|(?<=\.)\s/)[0]
    ?.replace(/\.$/, '')
    .trim();
  return line && line.length <= 80 ? line : null;
}

/** The fields of an argument, those of input objects by their whole path. `above` are the types it stands in. */
function collect(
  input: GraphQLArgument | GraphQLInputField,
  names: string[],
  required: boolean,
  above: GraphQLNamedInputType[],
  fields: TargetField[],
  notes: Set<string>,
): void {
  const type = getNullableType(input.type) as GraphQLInputType;
  // Before anything below it is looked at: inputs that hold each other have fields without end.
  if (fields.length >= limits.fields) {
    notes.add(`Only the first ${limits.fields} fields of an operation are read.`);
    return;
  }
  if (isInputObjectType(type) && names.length < limits.nesting && !above.includes(type)) {
    for (const inner of Object.values(type.getFields())) {
      const isNeeded = required && isNonNullType(inner.type) && inner.defaultValue === undefined;
      collect(inner, [...names, inner.name], isNeeded, [...above, type], fields, notes);
    }
    return;
  }
  fields.push(fieldOf(input, type, names, required));
}

function fieldOf(
  { name, description, deprecationReason }: GraphQLArgument | GraphQLInputField,
  type: GraphQLInputType,
  names: string[],
  required: boolean,
): TargetField {
  const items = isListType(type) ? (getNullableType(type.ofType) as GraphQLInputType) : null;
  const of = items ?? type;
  const descriptions = [description?.trim(), deprecationReason && `deprecated: ${deprecationReason}`]
    .filter(Boolean)
    .join(' ');
  return {
    key: names.join('.'),
    pointer: pointerOf(['variables', ...names]),
    label: labelFromKey(name),
    type: typeOf(type, items),
    required,
    readOnly: false,
    options: isEnumType(of) ? of.getValues().map(each => each.name) : null,
    maxLength: null,
    description:
      descriptions || (isInputObjectType(of) ? `${of.name}: ${Object.keys(of.getFields()).join(', ')}` : null),
    ...(items && itemType(items) && { items: itemType(items) }),
  };
}

const scalars: Record<string, TargetType> = {
  String: 'text',
  ID: 'text',
  Int: 'integer',
  Float: 'number',
  Boolean: 'boolean',
};

/** What scalars that a schema makes for itself are, by their names. *Common practice, no source.* */
function scalarType(name: string): TargetType {
  const known = Object.hasOwn(scalars, name) ? scalars[name] : undefined;
  if (known) return known;
  if (/date_?time|timestamp|instant/i.test(name)) return 'datetime';
  if (/date$/i.test(name)) return 'date';
  if (/json|object|map|any$/i.test(name)) return 'json';
  if (/decimal|double|money/i.test(name)) return 'number';
  return /^(big_?|long|short|unsigned|positive)?int(eger)?$|^long$/i.test(name) ? 'integer' : 'text';
}

function typeOf(type: GraphQLInputType, items: GraphQLInputType | null): TargetType {
  if (items)
    return isEnumType(items) || (isScalarType(items) && scalarType(items.name) !== 'json') ? 'choices' : 'json';
  if (isEnumType(type)) return 'choice';
  return isScalarType(type) ? scalarType(type.name) : 'json';
}

function itemType(items: GraphQLInputType): TargetField['items'] {
  const type = isScalarType(items) ? scalarType(items.name) : null;
  return type === 'number' || type === 'integer' || type === 'boolean' ? type : undefined;
}
