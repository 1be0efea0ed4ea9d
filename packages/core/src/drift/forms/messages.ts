import { decode, type Way } from '../../decode';
import { isJsonObject, type Json, type Submission } from '../../submission';
import type { Message } from './profile';

/** A request as it came: a body as text or as a JSON value, its media type, and the query of its address. */
export interface DriftRequest {
  body: Json;
  type?: string;
  query?: string;
}

/** Reads requests that came to one address, in their order: how the first were read weighs for those that follow. */
export function readMessages(requests: readonly DriftRequest[], ways: Way[] = []): Message[] {
  const encoder = new TextEncoder();
  return requests.map(({ body, type, query }) => {
    const isText = typeof body === 'string';
    const bytes = encoder.encode(isText ? body : JSON.stringify(body));
    const read = decode(
      bytes,
      type ?? (isText ? null : 'application/json'),
      (query ?? '').replace(/^\?/, ''),
      {},
      { ways },
    );
    const { envelope, media, submissions, document } = read;
    const way = envelope && { reader: envelope.reader, answersAt: envelope.answersAt, splitAt: envelope.splitAt };
    if (way && envelope.isSure && !ways.some(each => each.reader === way.reader && each.answersAt === way.answersAt))
      ways.push(way);
    return { submissions, media: mediumOf(media, type), way, options: statedOptions(document, submissions) };
  });
}

/** What a body was read as, and what it is said to be where that is no JSON: a page is built otherwise than a text. */
const mediumOf = (media: string, type: string | undefined): string =>
  media === 'json' || !type ? media : `${media} ${type.split(';')[0]!.trim().toLowerCase()}`;

/** Members that list what can be chosen. *Common practice, no source.* */
const listsOptions =
  /^(options?|choices?|answers?Options|allowed(Values)?|enum|values|items|optionen|opciones|auswahl|possible(Values|Answers)?)$/i;

/** Options that a document states for its questions: in a record that names the question, a list of more than one of them. */
export function statedOptions(document: Json, submissions: readonly Submission[]): Map<string, string[]> {
  const byName = new Map<string, string>();
  for (const { questions } of submissions)
    for (const { key, label } of questions) {
      byName.set(key, key);
      byName.set(label, key);
    }
  const found = new Map<string, string[]>();
  const waiting: Json[] = [document];
  for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
    if (typeof at !== 'object' || at === null) continue;
    if (isJsonObject(at)) {
      const record = at;
      const named = Object.values(record).find(each => typeof each === 'string' && byName.has(each)) as
        string | undefined;
      const list = Object.entries(record).find(
        ([name, each]) => listsOptions.test(name) && Array.isArray(each) && each.length > 1,
      );
      const texts = list ? optionTexts(list[1] as Json[]) : null;
      if (named !== undefined && texts) found.set(byName.get(named)!, texts);
    }
    for (const each of Object.values(at)) if (typeof each === 'object' && each !== null) waiting.push(each);
  }
  return found;
}

/** What options are called: texts as they are, records by their wording; null for a list of something else. */
function optionTexts(list: readonly Json[]): string[] | null {
  const texts = list.map(each => {
    if (typeof each === 'string') return each;
    if (!isJsonObject(each)) return null;
    const name = ['label', 'title', 'text', 'name', 'caption', 'wording', 'value'].find(
      key => typeof each[key] === 'string',
    );
    const other = Object.values(each).filter(one => typeof one === 'string') as string[];
    return name ? (each[name] as string) : (other.sort((a, b) => b.length - a.length)[0] ?? null);
  });
  return texts.every(each => each !== null) ? texts : null;
}
