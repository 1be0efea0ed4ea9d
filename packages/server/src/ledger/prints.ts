import type { ReadSubmission } from '../decoding/tasks';
import { FEED, type ArrivalRow } from '../store';
import { printOf } from './identity';

/** What tells an entry of a feed from others, however its page is read: its identifier or what it says, and the item itself. */
export function entriesOf({ id, content, item }: Pick<ReadSubmission, 'id' | 'content' | 'item'>): string[] {
  const entry = printOf('entry', id ?? `same:${content}`);
  return item === null ? [entry] : [entry, printOf('item', item)];
}

/** A digest by which a submission is known again. */
export interface Print {
  print: string;
  /** An entry of a feed is not held against those of its own page; the same bytes only against those since a time. */
  kind: 'said' | 'entry' | 'bytes';
}

/**
 * The digests of a submission. An identifier proves itself: what has the same one and says the same came before; what says something else
 * is another submission. Only of a feed, which shows its entries again and again, an entry that was changed since is still that entry.
 * Without an identifier, the same bytes within a window are the same submission.
 */
export function printsOf(
  { method, digest }: Pick<ArrivalRow, 'method' | 'digest'>,
  position: number,
  submission: Pick<ReadSubmission, 'form' | 'id' | 'content' | 'item'>,
  isWindowed: boolean,
): Print[] {
  const { content } = submission;
  // Forms that are told to be the same keep their keys.
  const formKey = submission.form?.key ?? '';
  const isFeed = method === FEED;
  const id = submission.id ?? (isFeed ? `same:${content}` : null);
  const prints: Print[] = [];
  if (id !== null) prints.push({ print: printOf('said', formKey, id, content), kind: 'said' });
  if (isFeed) for (const print of entriesOf(submission)) prints.push({ print, kind: 'entry' });
  if (id === null && isWindowed && digest !== null)
    prints.push({ print: printOf('bytes', digest, formKey, String(position)), kind: 'bytes' });
  return prints;
}
