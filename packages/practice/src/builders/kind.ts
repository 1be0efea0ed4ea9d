import type { Filled, PracticeForm } from './form';

/** A message a builder sends to an intake over HTTP. */
export interface Message {
  method: 'POST' | 'GET';
  contentType: string;
  body: Buffer;
  /** What follows `?` in the address. */
  query: string;
}

/** A mail a builder sends. */
export interface Notification {
  subject: string;
  text?: string;
  html?: string;
}

/** What a builder does with an answer, as far as its owner can set it. */
export interface BuilderSetting {
  generation: 'now' | 'earlier';
  method: 'POST' | 'GET';
}

/** One kind of form builder: how it tells of an answer. */
export interface BuilderKind {
  id: string;
  /** What it sends, in a sentence. */
  summary: string;
  /** push: posts each answer. mail: sends a notification. feed: waits to be read. */
  way: 'push' | 'mail' | 'feed';
  /** What the two payload generations are. */
  generations: { now: string; earlier: string };
  /** True where the owner can choose between GET and POST. */
  choosesMethod: boolean;
  /** True where it can sign. */
  signs: boolean;
  message?(form: PracticeForm, filled: Filled, setting: BuilderSetting): Message;
  notification?(form: PracticeForm, filled: Filled, setting: BuilderSetting): Notification;
  /** One row of its feed. */
  row?(form: PracticeForm, filled: Filled): Record<string, unknown>;
}

export const postOf = (contentType: string, body: string | Buffer): Message => ({
  method: 'POST',
  contentType,
  body: Buffer.from(body),
  query: '',
});
