/** What a reader could not read, or read otherwise than declared. Codes are stable. */
export interface Note {
  code: string;
  message: string;
  /** Where in the document, as a JSON Pointer, when it is about one place. */
  pointer?: string;
}

/** Documents nested deeper than this are not searched for answers. */
export const DEEPEST = 64;
