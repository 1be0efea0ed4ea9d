import {
  behindLast,
  isJsonObject,
  parseJson,
  upToFirst,
  withoutEnd,
  type FileRef,
  type Json,
  type JsonObject,
} from '../../submission';
import { nameWords } from '../names';

/** The files of an answer: objects with a link and a name, lists of them, bare links, data URIs; null when it holds none. */
export function filesOf(field: string, value: Json, isFileQuestion: boolean): FileRef[] | null {
  const read = typeof value === 'string' && /^\s*[[{]/.test(value) ? (parseJson(value) ?? value) : value;
  const items = Array.isArray(read) ? read : [read];
  const files: FileRef[] = [];
  for (const item of items) {
    const file = fileOf(field, item, isFileQuestion);
    if (file === null) return null;
    files.push(file);
  }
  return files.length > 0 ? files : null;
}

function fileOf(field: string, item: Json, isFileQuestion: boolean): FileRef | null {
  if (typeof item === 'string' && (isFileQuestion || /^\s*data:[\w.+-]+\/[\w.+-]+;base64,/i.test(item)))
    return fileFromText(field, item.trim());
  return isJsonObject(item) ? fileFromObject(field, item) : null;
}

const named = (object: JsonObject, words: string[], is: (value: Json) => boolean) =>
  Object.keys(object)
    .slice(0, MOST_MEMBERS)
    .find(name => nameWords(name).some(word => words.includes(word)) && is(object[name]!));
/** A file is told by fewer members than these. */
const MOST_MEMBERS = 40;
const isText = (value: Json) => typeof value === 'string';
const isCount = (value: Json) =>
  typeof value === 'number' ? Number.isFinite(value) : typeof value === 'string' && /^\d{1,15}$/.test(value.trim());
const isLink = (value: Json) => typeof value === 'string' && /^(https?:|data:)/i.test(value);

function fileFromObject(field: string, object: JsonObject): FileRef | null {
  const link = named(
    object,
    ['url', 'link', 'href', 'uri', 'download', 'src', 'path', 'location', 'file', 'content'],
    isLink,
  );
  const name = named(
    object,
    ['name', 'filename', 'file', 'title', 'original'],
    value => isText(value) && !isLink(value),
  );
  const size = named(object, ['size', 'bytes', 'length'], isCount);
  const type = named(
    object,
    ['type', 'mime', 'mimetype', 'content', 'media'],
    value => isText(value) && /^[\w.+-]+\/[\w.+-]+$/.test(value as string),
  );
  const supports = [link, name, size, type].filter(Boolean).length;
  if (supports < 2 || (!link && !type && !size)) return null;
  const text = link ? fileFromText(field, object[link] as string) : null;
  return {
    field,
    name: name ? (object[name] as string) : (text?.name ?? 'file'),
    type: type ? (object[type] as string) : (text?.type ?? null),
    size: size ? Number(object[size]) : (text?.size ?? null),
    url: text?.url ?? null,
  };
}

function fileFromText(field: string, text: string): FileRef | null {
  const data = dataUri(text);
  if (data) return { field, name: 'file', ...data, url: null };
  const isLink = /^https?:\/\//i.test(text);
  if (!isLink && !isPath(text)) return null;
  const path = upToFirst(text, '?#')
    .split(/[/\\]/)
    .slice(isLink ? 3 : 0);
  return { field, name: decodeURIComponentSafely(path.at(-1) || 'file'), type: null, size: null, url: text };
}

/** The type and the bytes of a data URI (RFC 2397); null for any other text. */
function dataUri(text: string): Pick<FileRef, 'type' | 'size'> | null {
  const comma = /^data:/i.test(text) ? text.indexOf(',') : -1;
  if (comma < 0) return null;
  const head = text.slice('data:'.length, comma);
  const type = upToFirst(head, ';') || null;
  const content = text.slice(comma + 1);
  if (!/;base64$/i.test(head))
    return { type, size: new TextEncoder().encode(decodeURIComponentSafely(content)).length };
  return { type, size: Math.floor((withoutEnd(content, '=').length * 3) / 4) };
}

/** `/uploads/2026/plan.pdf`, `store:photos/a.jpg`: a place in the builder's own store, in one line and with an ending. */
const isPath = (text: string): boolean =>
  text.length <= LONGEST_PATH &&
  /^[^\s?*"<>|][^\n?*"<>|]*$/.test(text) &&
  /^[^/\\]+\.[a-z\d]{1,8}$/i.test(behindLast(text, '/\\')) &&
  /[/\\]/.test(text);

/** Characters. */
const LONGEST_PATH = 2000;

function decodeURIComponentSafely(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
