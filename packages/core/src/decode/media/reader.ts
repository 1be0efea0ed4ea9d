import type { Json } from '../../submission';
import type { Note } from '../notes';

/** A message body before anyone has looked at it. */
export interface Body {
  bytes: Uint8Array;
  /** The media type without parameters, lower-cased; null when not stated. */
  type: string | null;
  /** Parameters of the Content-Type, such as charset. */
  parameters: Record<string, string>;
  /** The bytes as text in the stated charset, UTF-8 when none is stated. A byte-order mark is dropped. */
  readonly text: string;
}

export interface MediaReading {
  document: Json;
  notes: Note[];
  /** True for rows of cells by the names of their columns: no row is anything else. */
  isTable?: boolean;
  /** What the columns of a table are called for people, where that is not their name. */
  labels?: Record<string, string>;
}

/** One media type: says whether it is stated, whether the bytes look like it, and reads them. */
export interface MediaReader {
  id: string;
  label: string;
  /** True when the Content-Type states this media type. */
  isStated(type: string): boolean;
  /** True when the bytes look like it whatever was stated. */
  looksLike(body: Body): boolean;
  /** The document, or a note that says why it is none. */
  read(body: Body): MediaReading | Note;
}
