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

/** What a body was read as, and what it is said to be where that is no JSON: a page is built otherwise than a text. */
const mediumOf = (media: string, type: string | undefined): string =>
  media === 'json' || !type ? media : `${media} ${type.split(';')[0]!.trim().toLowerCase()}`;
