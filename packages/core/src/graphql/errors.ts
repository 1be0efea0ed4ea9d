import { asText, isJsonObject, parseJson, type Json } from '../submission';

/**
 * What a GraphQL answer says against its request, in a line; null where it says nothing. A request may be answered with 200 and have
 * failed: then the answer has `errors` (GraphQL, October 2021, §7.1.2).
 */
export function graphqlErrors(body: string): string | null {
  const document = parseJson(body);
  const errors = isJsonObject(document ?? null) ? (document as { errors?: Json }).errors : undefined;
  if (!Array.isArray(errors) || errors.length === 0) return null;
  const messages = errors
    .map(each => (isJsonObject(each) ? asText(each.message ?? null) : asText(each)))
    .filter(Boolean);
  return messages.join(' ').slice(0, 500) || 'It does not say why.';
}
