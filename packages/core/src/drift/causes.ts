import { asText, type Json } from '../submission';

/** What is told of a change, as far as it tells the changes apart that are one. */
export interface ToldChange {
  id: string;
  subject: 'form' | 'target';
  subjectId: string;
  what: { change: string; field?: string | null; was?: Json; now?: Json };
  state: string;
  /** ms since the epoch: what is seen at one reading has one time. */
  firstAt: number;
}

/**
 * The same for changes that are one cause: one edit of a field, told of each operation that has it; a path under which several operations stand; a
 * field that others stand in. A change of a form is a cause of its own.
 */
export function causeOf({ id, subject, subjectId, what, state, firstAt }: ToldChange): string {
  const { change, field = null, was = null, now = null } = what;
  const place = placeChanged(what);
  if (subject !== 'target' || (field === null && !place)) return id;
  return JSON.stringify([subjectId, change, ...(place ? [place.was, place.now] : [field, was, now]), state, firstAt]);
}

/** What of the path of an operation or of the place of a field is otherwise, without the parts at its end that are as they were; null where neither has another. */
export function placeChanged({ change, field, was, now }: ToldChange['what']): { was: string; now: string } | null {
  if (change === 'field-renamed') return placesApart(field ?? '', asText(now ?? null));
  if (change !== 'operation-moved') return null;
  const [[method, before], [newMethod, after]] = [was, now].map(each => asText(each ?? null).split(' ')) as [
    string[],
    string[],
  ];
  return method === newMethod && before !== undefined && after !== undefined ? placesApart(before, after) : null;
}

function placesApart(before: string, after: string): { was: string; now: string } {
  const [one, other] = [before.split('/'), after.split('/')];
  const most = Math.min(one.length, other.length) - 1;
  let same = 0;
  while (same < most && one.at(-1 - same) === other.at(-1 - same)) same += 1;
  const upTo = (parts: string[]) => parts.slice(0, parts.length - same).join('/') || '/';
  return { was: upTo(one), now: upTo(other) };
}
