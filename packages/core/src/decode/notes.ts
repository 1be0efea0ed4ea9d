/** What a reader could not read, or read otherwise than declared. Codes are stable. */
export interface Note {
  code: string;
  message: string;
  /** Where in the document, as a JSON Pointer, when it is about one place. */
  pointer?: string;
}

/** Below this depth a document is not searched for answers. */
export const DEEPEST = 64;
/** A document nested deeper than this is not read at all: nobody's form is. */
export const TOO_DEEP = 250;
