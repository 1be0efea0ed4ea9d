import {
  getNamedType,
  getNullableType,
  isCompositeType,
  isEnumType,
  isListType,
  isNonNullType,
  isObjectType,
  isInterfaceType,
  isScalarType,
  type GraphQLField,
  type GraphQLOutputType,
} from 'graphql';
import { labelFromKey, pointerOf } from '../submission';
import type { AnswerField, TargetType } from '../target';

/** How deep an answer is asked for, how many fields of one object, and how many of all. */
const limits = { depth: 4, fields: 30, all: 120 };

const types: Record<string, TargetType> = { Int: 'integer', Float: 'number', Boolean: 'boolean' };

/**
 * What is asked of an answer: everything simple in it, and in what it holds, as deep as is looked. Fields that want arguments are left
 * out, and so are objects that stand in one of their own kind.
 * @returns the selection set as it stands in a document, and its places in the answer
 */
export function selectionOf(type: GraphQLOutputType, name: string): { text: string; fields: AnswerField[] } {
  const room = { left: limits.all };
  const { text, fields } = select(type, ['data', name], [], '  ', room);
  return { text, fields };
}

function select(
  type: GraphQLOutputType,
  at: string[],
  above: string[],
  indent: string,
  room: { left: number },
): { text: string; fields: AnswerField[] } {
  const plain = getNullableType(type) as GraphQLOutputType;
  const label = labelFromKey(at.at(-1) ?? '');
  if (isListType(plain)) {
    const of = getNullableType(plain.ofType) as GraphQLOutputType;
    if (!isCompositeType(of)) return { text: '', fields: [{ pointer: pointerOf(at), label, type: 'choices' }] };
    const inner = select(of, [], above, indent, room);
    return { text: inner.text, fields: [{ pointer: pointerOf(at), label, type: 'json', items: inner.fields }] };
  }
  if (!isCompositeType(plain)) return { text: '', fields: [{ pointer: pointerOf(at), label, type: typeOf(plain) }] };
  const lines: string[] = [];
  const answer: AnswerField[] = [];
  for (const field of isObjectType(plain) || isInterfaceType(plain)
    ? simpleFirst(Object.values(plain.getFields()))
    : []) {
    if (room.left <= 0 || lines.length >= limits.fields) break;
    const named = getNamedType(field.type);
    const isSimple = !isCompositeType(named);
    if (
      needsArguments(field) ||
      (!isSimple && (above.length >= limits.depth || [...above, plain.name].includes(named.name)))
    )
      continue;
    const inner = select(field.type, [...at, field.name], [...above, plain.name], `${indent}  `, room);
    if (!isSimple && inner.text === '') continue;
    room.left -= 1;
    lines.push(`${indent}  ${field.name}${inner.text}`);
    answer.push(...inner.fields);
  }
  // A union has no fields of its own; what it is can always be asked.
  if (lines.length === 0) lines.push(`${indent}  __typename`);
  return { text: ` {\n${lines.join('\n')}\n${indent}}`, fields: answer };
}

const needsArguments = ({ args }: GraphQLField<unknown, unknown>): boolean =>
  args.some(each => isNonNullType(each.type) && each.defaultValue === undefined);

/** What is simple goes before what holds others: there is room for so many only. */
const simpleFirst = (fields: GraphQLField<unknown, unknown>[]): GraphQLField<unknown, unknown>[] =>
  [...fields].sort(
    (a, b) => Number(isCompositeType(getNamedType(a.type))) - Number(isCompositeType(getNamedType(b.type))),
  );

const typeOf = (type: GraphQLOutputType): TargetType =>
  isEnumType(type) ? 'choice' : isScalarType(type) && Object.hasOwn(types, type.name) ? types[type.name]! : 'text';
