import { match as propose, type MatchTarget, type SourceField } from '@grammata/core/match';
import { isJsonObject, type Json, type JsonObject } from '@grammata/core/submission';
import { documentOf, fileAndOptions, Misuse, type Command } from './command';

/** `grammata match`: which answer of a form goes into which field of a target. */
export const match: Command = async args => {
  const { file } = fileAndOptions(args, {});
  const document = await documentOf(file);
  const [from, to] = ['from', 'to'].map(side => fieldsOf(document, side));
  const proposals = propose(from as unknown as SourceField[], to as unknown as MatchTarget[]);
  return { lines: proposals.map(({ to: key, from: source, score, why }) => ({ to: key, from: source, score, why })) };
};

function fieldsOf(document: unknown, side: string): JsonObject[] {
  const holder: Json | undefined = isJsonObject(document) ? document[side] : undefined;
  const fields = isJsonObject(holder ?? null) ? (holder as JsonObject).fields : undefined;
  if (!Array.isArray(fields)) throw new Misuse(`the document must hold "${side}": {"fields": […]}.`);
  return fields.map((field, index) => {
    if (!isJsonObject(field) || typeof field.key !== 'string')
      throw new Misuse(`field ${index + 1} of "${side}" must have a "key".`);
    return Object.fromEntries(Object.entries(field).filter(([, value]) => value !== null));
  });
}
