import type { FileRef, Json, JsonObject } from '../../submission';
import { nameWords } from '../names';
import { bytesInBase64, fileFromText, isPath } from './written';

/** A file is told by fewer members than these. */
const MOST_MEMBERS = 40;

const named = (object: JsonObject, words: string[], is: (value: Json) => boolean) =>
  Object.keys(object)
    .slice(0, MOST_MEMBERS)
    .find(name => nameWords(name).some(word => words.includes(word)) && is(object[name]!));

const isText = (value: Json) => typeof value === 'string' && value.trim() !== '';
const isCount = (value: Json) =>
  typeof value === 'number' ? Number.isFinite(value) : typeof value === 'string' && /^\d{1,15}$/.test(value.trim());
const isLink = (value: Json) => typeof value === 'string' && /^(https?:|data:)/i.test(value);
const isPlace = (value: Json) => isLink(value) || (typeof value === 'string' && isPath(value));
const isBase64 = (value: Json) =>
  typeof value === 'string' &&
  value.length > 1 &&
  /^[A-Za-z0-9+/\s]+={0,2}$/.test(value.slice(0, 4000)) &&
  value.trim().length % 4 === 0;
const isMediaType = (value: Json) => typeof value === 'string' && /^[\w.+-]+\/[\w.+-]+(;.*)?$/.test(value);

const places = [
  'url',
  'link',
  'href',
  'uri',
  'download',
  'src',
  'path',
  'location',
  'file',
  'content',
  'data',
  'stored',
  'key',
];
const names = ['name', 'filename', 'file', 'title', 'original', 'originalname', 'label', 'basename'];
const sizes = ['size', 'bytes', 'length', 'filesize'];
const types = ['type', 'mime', 'mimetype', 'content', 'media', 'contenttype', 'format'];
const contents = ['base64', 'data', 'content', 'body', 'bytes', 'b64', 'contents', 'blob'];

const ids = ['id', 'uid', 'uuid', 'guid', 'handle', 'ref', 'token', 'key'];
/** Characters of the longest identifier. */
const LONGEST_ID = 200;
const isId = (value: Json) =>
  typeof value === 'number' ? Number.isInteger(value) : typeof value === 'string' && isWord(value.trim());
const isWord = (text: string) => text.length > 0 && text.length <= LONGEST_ID && !/\s|^[a-z]+:\/\/|^data:/i.test(text);

/** Characters from which on a text in Base64 under any name is taken for what is in a file: digests and tokens are shorter. */
const LEAST_CONTENT = 200;

/** What is in a file, as text in Base64: under a name that says so; under any where it is as large as is said, or long. */
function contentIn(object: JsonObject): string | undefined {
  const said = named(object, contents, value => isBase64(value));
  if (said !== undefined) return said;
  const size = named(object, sizes, isCount);
  return Object.keys(object)
    .slice(0, MOST_MEMBERS)
    .find(name => {
      const value = object[name]!;
      if (!isBase64(value)) return false;
      return String(value).length >= LEAST_CONTENT || (size && bytesInBase64(String(value)) === Number(object[size]));
    });
}

/** The file that an object is, with what is in it; null where it holds no content. */
export function heldIn(object: JsonObject): { file: FileRef; base64: string } | null {
  const file = fileFromObject('', object, true);
  const content = contentIn(object);
  return file?.url === null && content !== undefined ? { file, base64: String(object[content]) } : null;
}

/** The file that an object is the metadata of, with or without what is in it; null for any other. */
export function fileFromObject(field: string, object: JsonObject, isFileQuestion: boolean): FileRef | null {
  const place = named(object, places, isLink) ?? named(object, places, isPlace);
  const name = named(
    object,
    names,
    value => isText(value) && !isLink(value) && !(place !== undefined && value === object[place]),
  );
  const size = named(object, sizes, isCount);
  const type = named(object, types, isMediaType);
  const content = place === undefined || !isLink(object[place]!) ? contentIn(object) : undefined;
  const supports = [place, name, size, type, content].filter(Boolean).length;
  const isNamedFile = name !== undefined && /\.[a-z\d]{1,8}$/i.test(String(object[name]));
  // In a question for files, a name with an ending beside an identifier is enough.
  const isEnough = isFileQuestion
    ? supports >= 1 && (place !== undefined || content !== undefined || isNamedFile)
    : supports >= 2;
  if (!isEnough || (!isFileQuestion && !place && !type && !size && !content)) return null;
  if (content !== undefined && !isFileQuestion && !type && !size && !isNamedFile) return null;
  if (place === undefined && !isFileQuestion && !type && !isNamedFile) return null;
  const taken = [place, name, size, type, content];
  const id = named(object, ids, value => isId(value) && !taken.some(each => each && object[each] === value));
  const text = place ? fileFromText(field, String(object[place])) : null;
  return {
    field,
    name: name ? String(object[name]) : (text?.name ?? 'file'),
    type: type ? String(object[type]) : (text?.type ?? null),
    size: size ? Number(object[size]) : content ? bytesInBase64(String(object[content])) : (text?.size ?? null),
    url: text?.url ?? null,
    ...(id !== undefined && { id: String(object[id]).trim() }),
  };
}
