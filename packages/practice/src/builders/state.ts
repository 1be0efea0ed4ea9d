import type { FormEdit } from './edits';
import type { SentRecord } from './form';
import type { BuilderSetting } from './kind';

/** What a builder keeps. */
export interface BuilderState extends BuilderSetting {
  address: string;
  /** Where mails go out through: `host:port`. */
  via: string;
  /** Signs every message when it is not empty; the token of a feed. */
  secret: string;
  /** What its owner did to the form. */
  edits: FormEdit[];
  sent: SentRecord[];
  /** What a feed has to show, newest first. */
  rows: Record<string, unknown>[];
}
