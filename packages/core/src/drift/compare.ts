import {
  asText,
  isJsonObject,
  parseJson,
  valueChanges,
  type Json,
  type Submission,
  type ValueChange,
} from '../submission';
import { documentChanges, type DocumentChange } from './documents';
import { formChanges, readBoth, type DriftRequest, type FormChange } from './forms';

/** One of two things that are held against each other: a message or a document, as text. */
export interface Side {
  text: string;
  /** Media type of a message, where it is known. */
  type?: string | null;
  /** What stood behind `?` in the address of a message. */
  query?: string;
}

/** An answer on either side; null where it is not given there. */
export interface AnswerPair {
  key: string;
  label: string;
  before: Json;
  after: Json;
}

/** Two things, held against each other. */
export interface Comparing {
  /** What both were taken for. */
  kind: 'documents' | 'schemas' | 'messages';
  /** What is otherwise, as it is told of forms and of targets. */
  changes: (FormChange | DocumentChange)[];
  /** Of messages: every answer, side by side, in the order of both. */
  answers: AnswerPair[];
  /** The places at which the JSON of both differs; null where one of them is none. */
  places: ValueChange[] | null;
}

/** Holds two messages, two OpenAPI documents or two JSON Schemas against each other. */
export function compareSides(before: Side, after: Side): Comparing {
  const [was, now] = [parseJson(before.text), parseJson(after.text)];
  const places = was === undefined || now === undefined ? null : valueChanges(was, now);
  const documents = was === undefined || now === undefined ? null : documentChanges(was, now);
  if (documents) return { kind: 'documents', changes: documents, answers: [], places };
  if (isSchema(was) && isSchema(now)) {
    const changes = documentChanges(taking(was), taking(now)) ?? [];
    return { kind: 'schemas', changes, answers: [], places };
  }
  const asked = ({ text, type, query = '' }: Side): DriftRequest[] => [{ body: text, ...(type && { type }), query }];
  const [older, newer] = readBoth(asked(before), asked(after));
  const [one, other] = [older, newer].map(messages => new Map(messages[0]!.submissions.flatMap(answersIn)));
  const changes = formChanges(older, newer);
  // What came in the place of another stands beside it.
  const successors = new Map(
    changes.filter(each => each.change === 'replaced').map(each => [asText(each.was), asText(each.now)]),
  );
  const taken = new Set(successors.values());
  const keys = [...new Set([...one!.keys(), ...other!.keys()])].filter(key => !taken.has(key) || one!.has(key));
  return {
    kind: 'messages',
    changes,
    answers: keys.map(key => {
      const [a, b] = [one!.get(key), other!.get(successors.get(key) ?? key)];
      return { key, label: (b ?? a)!.label, before: a?.value ?? null, after: b?.value ?? null };
    }),
    places,
  };
}

const answersIn = ({ fields }: Submission) => fields.map(each => [each.key, each] as const);

/** True for a JSON Schema of an object (2020-12, §10.3.2.1). */
const isSchema = (value: Json | undefined): value is Json =>
  isJsonObject(value) &&
  isJsonObject(value.properties) &&
  (value.type === 'object' || typeof value.$schema === 'string');

/** A document of an operation that takes what a schema describes. */
const taking = (schema: Json): Json => ({
  openapi: '3.1.0',
  paths: { '/': { post: { requestBody: { required: true, content: { 'application/json': { schema } } } } } },
});
