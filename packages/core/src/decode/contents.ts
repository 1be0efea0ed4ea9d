import { isJsonObject, parseJson, upToFirst, type FileRef, type Json } from '../submission';
import { heldIn } from './files';
import { contentTypeParts, bytesOfBase64, filesInMail, filesInMultipart, type FileContent } from './media';

export type { FileContent };

/**
 * The files that came along in a message, with their content, in their order: parts of a multipart form, what is
 * attached to a mail, data URIs (RFC 2397) in anything else.
 */
export function contentsIn(bytes: Uint8Array, contentType: string | null): FileContent[] {
  const { type, parameters } = contentTypeParts(contentType);
  if (type?.startsWith('multipart/form-data') && parameters.boundary)
    return filesInMultipart(bytes, parameters.boundary);
  if (type === 'message/rfc822') return filesInMail(bytes);
  return dataUrisIn(new TextDecoder().decode(bytes));
}

/** Characters of the longest media type with its parameters. */
const LONGEST_HEAD = 200;

const base64 = /[A-Za-z0-9+/=]*/y;

function dataUrisIn(text: string): FileContent[] {
  const plain = text.replaceAll('\\/', '/');
  const found: FileContent[] = [];
  for (let at = plain.indexOf('data:'); at >= 0; at = plain.indexOf('data:', at + 5)) {
    const head = /^([\w.+-]+\/[\w.+-]+)(?:;[\w=.+-]+)*$/.exec(
      upToFirst(plain.slice(at + 5, at + 5 + LONGEST_HEAD), ','),
    );
    if (!head || !head[0].endsWith(';base64')) continue;
    const start = at + 5 + head[0].length + 1;
    base64.lastIndex = start;
    const content = base64.exec(plain)![0];
    if (content !== '') found.push({ name: 'file', type: head[1]!, bytes: bytesOfBase64(content) });
    at = start + content.length - 5;
  }
  return found;
}

/** A file that stands in a message as an object with its content in it. */
export interface InlineFile {
  file: FileRef;
  bytes: Uint8Array;
}

/** Objects that are looked through. */
const MOST_LOOKED = 200_000;

/** The files whose content stands in Base64 in objects of a document, JSON in texts too, in their order. */
export function contentsInDocument(document: Json): InlineFile[] {
  const found: InlineFile[] = [];
  const ahead: Json[] = [document];
  for (let looked = 0; ahead.length > 0 && looked < MOST_LOOKED; looked++) {
    const value = ahead.pop()!;
    const held = isJsonObject(value) ? heldIn(value) : null;
    if (held) found.push({ file: held.file, bytes: bytesOfBase64(held.base64) });
    else if (typeof value === 'string') {
      const inner = /^\s*[[{]/.test(value) ? parseJson(value) : undefined;
      if (inner !== undefined) ahead.push(inner);
    } else if (typeof value === 'object' && value !== null)
      for (const each of Object.values(value).reverse()) ahead.push(each);
  }
  return found;
}

/**
 * Which content is that of a submission's file, by what is said of it: of files that are said to be the same, the first is
 * the first. -1 for none.
 */
export function contentFor(files: readonly FileRef[], index: number, contents: readonly Told[]): number {
  const wanted = files[index];
  if (!wanted) return -1;
  const fits = (file: FileRef, each: Told) =>
    file.size === each.size && (file.name === each.name || each.name === 'file' || file.type === each.type);
  const isLike = (file: FileRef) => file.url === null && file.size === wanted.size && file.name === wanted.name;
  const before = files.slice(0, index).filter(isLike).length;
  const candidates = contents.flatMap((each, at) => (fits(wanted, each) ? [at] : []));
  return candidates[before] ?? -1;
}

interface Told {
  name: string;
  type: string | null;
  /** Bytes; null where that is not said. */
  size: number | null;
}
