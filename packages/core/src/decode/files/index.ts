import { isJsonObject, parseJson, type FileRef, type Json } from '../../submission';
import { fileFromObject } from './metadata';
import { fileFromText, filesFromText, isData } from './written';

export { heldIn } from './metadata';

/**
 * The files of an answer, in any notation: metadata with a link, a path, content or an identifier, alone or in lists, as JSON in
 * a text too; links, one or several; anchors; paths; data URIs. Null when it holds none.
 * @param isFileQuestion true where the question asks for files: then a bare link is one
 */
export function filesOf(field: string, value: Json, isFileQuestion: boolean): FileRef[] | null {
  const read = typeof value === 'string' && /^\s*[[{]/.test(value) ? opened(value) : value;
  if (typeof read === 'string') {
    if (isFileQuestion) return filesFromText(field, read);
    const one = isData(read) ? fileFromText(field, read.trim()) : null;
    return one ? [one] : null;
  }
  const items = Array.isArray(read) ? read : [read];
  const files: FileRef[] = [];
  for (const item of items) {
    const file = fileOf(field, item, isFileQuestion);
    if (file === null) return null;
    files.push(file);
  }
  return files.length > 0 ? files : null;
}

/** JSON inside a text, where it is metadata of files; any other stays the text it is. */
function opened(text: string): Json {
  const read = parseJson(text);
  return typeof read === 'object' && read !== null ? read : text;
}

function fileOf(field: string, item: Json, isFileQuestion: boolean): FileRef | null {
  if (typeof item === 'string') return isFileQuestion || isData(item) ? fileFromText(field, item.trim()) : null;
  if (!isJsonObject(item)) return null;
  const own = fileFromObject(field, item, isFileQuestion);
  if (own) return own;
  // `{ file: { name, link } }`: one level deeper.
  const [inner, ...more] = Object.values(item);
  return isJsonObject(inner) && more.length === 0 ? fileFromObject(field, inner, isFileQuestion) : null;
}

export { isUploadLink } from './written';
