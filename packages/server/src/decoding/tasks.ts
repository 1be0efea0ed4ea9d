import type { MessagePort } from 'node:worker_threads';
import type { Decoded, FileContent, DecodeContext, Pins, Way } from '@grammata/core/decode';
import type { FileRef, Submission } from '@grammata/core/submission';
import type { CheckedRoute, Workspace } from '@grammata/core/workspace';
import type { ReadingSummary } from '@grammata/contract';
import type { AnswerChangeSeen, Answered, AnswerPlace } from '@grammata/core/drift';
import type { FormLook, ToldChange } from '../drift/formChanges';
import type { BuiltRow } from '../store';
import type { HowToRead, Offer, OfferKind } from '../targets/offer';

/** What a target answered, as text; null where none was had. */
export type AnsweredText = Omit<Answered, 'answer'> & { text: string | null };

/** A message as it was stored. */
export interface StoredMessage {
  /** All of it, or what was kept where it lies in a file. */
  body: Uint8Array;
  /** The file that the whole body lies in; null where it is given. */
  file: string | null;
  contentType: string | null;
  headers?: [name: string, value: string][];
  /** ms since 1970 at which it arrived; left out of what was only composed. */
  arrivedAt?: number;
  /** The address it came to, for what stands behind `?`. */
  url: string;
  /** What is known of the messages of its intake. */
  known?: DecodeContext;
  /** The intake whose shapes a thread keeps in mind; left out where a message is to be searched through. */
  shapesOf?: string;
}

/** A submission that was read, with what is stored beside it: made in the thread that read it. */
export interface ReadSubmission extends Pick<Submission, 'form' | 'id'> {
  /** A digest of what it says: the same for those that say the same. */
  content: string;
  /** A digest of the item that it was read from, where its message is a list; null where it is all of the message. */
  item: string | null;
  /** A few answers, to be known by. */
  about: string;
  /** What it is found by. */
  words: string;
  /** The submission as JSON. */
  data: string;
}

/** What is stored of a reading. */
export interface ReadMessage {
  state: 'read' | 'unread';
  trouble: string | null;
  isSure: boolean;
  /** How it was read, where that is sure. */
  way: Way | null;
  submissions: ReadSubmission[];
  /** True for a document that is a list without anything in it. */
  isEmpty: boolean;
  notes: string[];
}

/** What people are shown of how a message was read. */
export type LookedAt = Pick<Decoded, 'media' | 'envelope' | 'runnersUp' | 'notes'> & {
  /** Null where it is larger than is shown. */
  document: Decoded['document'];
};

/** What other pins would make of a message. */
export interface Compared {
  isSame: boolean;
  /** What the pins did not find, in a sentence. */
  missing: string | null;
  before: ReadingSummary;
  after: ReadingSummary;
  /** Keys of the forms it would hold. */
  forms: string[];
  /** The submissions it would hold, the first few. */
  shown: Submission[];
}

/** What the threads are asked for. */
export type DecodeTask =
  | { task: 'read'; messages: StoredMessage[]; pins: Pins[] }
  | { task: 'portions'; message: StoredMessage; pins: Pins; port: MessagePort }
  | { task: 'look'; message: StoredMessage; pins: Pins; most: number }
  | { task: 'compare'; messages: StoredMessage[]; before: Pins; after: Pins }
  | { task: 'lookAtForm'; rows: BuiltRow[]; looks: number; told: ToldChange[] }
  | { task: 'answerChanges'; answers: AnsweredText[]; places: Map<string, AnswerPlace[]> }
  | { task: 'checkProofs'; workspace: Workspace }
  | { task: 'offer'; kind: OfferKind; text: string; how: HowToRead }
  | ({ task: 'content'; files: FileRef[]; index: number } & Pick<StoredMessage, 'body' | 'file' | 'contentType'>);

export interface DecodeResult {
  /** Null for a message with so many submissions that they are to be taken in portions. */
  read: (ReadMessage | null)[];
  portions: Omit<ReadMessage, 'submissions'>;
  look: LookedAt;
  compare: Compared[];
  lookAtForm: FormLook;
  answerChanges: AnswerChangeSeen[];
  checkProofs: CheckedRoute[];
  offer: Offer;
  content: FileContent | null;
}

/** What comes over the port of a reading in portions. Each portion is answered with `taken`. */
export type PortionMessage =
  { type: 'found'; total: number } | { type: 'portion'; from: number; submissions: ReadSubmission[] };
