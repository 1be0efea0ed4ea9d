import type { Json } from '../submission';
import type { Comparison } from './readBack';

/** What became of a call, for one item. */
export interface Done {
  callId: string;
  item: string;
  /** Target and operation it was made with: a call that was changed to another is not done. */
  with?: string;
  /** unchanged: the record found has all of it already. left: none was found, and none was to be made. */
  what: 'created' | 'updated' | 'unchanged' | 'left' | 'failed';
  answer: Json;
  /** What identifies the record, where the call says how that is told. */
  identity?: Json;
  /** In words, where there is something to say. */
  note: string | null;
  /** What was sent against what the target stored; null where that was not looked at. */
  compared?: Comparison[] | null;
}
