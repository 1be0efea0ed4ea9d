import type { FileRef } from '../submission';
import { contentTypeParts, filesInMail, filesInMultipart, type FileContent } from './media';

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

function dataUrisIn(text: string): FileContent[] {
  const plain = text.replaceAll('\\/', '/');
  return [...plain.matchAll(/data:([\w.+-]+\/[\w.+-]+)[\w;=.+-]*?;base64,([A-Za-z0-9+/]+={0,2})/g)].map(
    ([, type, content]) => ({
      name: 'file',
      type: type!,
      bytes: Uint8Array.from(atob(content!), each => each.charCodeAt(0)),
    }),
  );
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
  /** Bytes. */
  size: number;
}
