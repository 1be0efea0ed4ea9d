import { decode, type Way } from '../../decode';
import type { Json } from '../../submission';
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
    const { envelope, media, submissions } = read;
    const way = envelope && { reader: envelope.reader, answersAt: envelope.answersAt, splitAt: envelope.splitAt };
    if (way && envelope.isSure && !ways.some(each => each.reader === way.reader && each.answersAt === way.answersAt))
      ways.push(way);
    return { submissions, media: mediumOf(media, type), way };
  });
}

/**
 * Reads messages before and after: where they were not all read in one way, those that nobody is sure of are read again as the others were, the surest
 * and commonest way first. What is told then is what changed, not how one message was taken.
 */
export function readBoth(
  before: readonly DriftRequest[],
  after: readonly DriftRequest[],
): [before: Message[], after: Message[]] {
  const sure: Way[] = [];
  const first: [Message[], Message[]] = [readMessages(before, sure), readMessages(after, sure)];
  const counts = new Map<string, { way: Way; times: number }>();
  for (const { way } of first.flat()) {
    if (!way) continue;
    const key = JSON.stringify(way);
    counts.set(key, { way, times: (counts.get(key)?.times ?? 0) + 1 });
  }
  if (counts.size < 2) return first;
  const commonest = [...counts.values()].sort((one, other) => other.times - one.times).map(each => each.way);
  const ways = [...sure, ...commonest];
  return [readMessages(before, ways), readMessages(after, ways)];
}

/** What a body was read as, and what it is said to be where that is no JSON: a page is built otherwise than a text. */
const mediumOf = (media: string, type: string | undefined): string =>
  media === 'json' || !type ? media : `${media} ${type.split(';')[0]!.trim().toLowerCase()}`;
