import { behindLast, upToFirst, withoutEnd, percentDecoded, type FileRef } from '../../submission';

/** True for a data URI (RFC 2397) and nothing beside. */
export const isData = (text: string): boolean => /^\s*data:[\w.+-]+\/[\w.+-]+[;,]/i.test(text);

/** An anchor of HTML around the name of a file. Bounded: a hostile text is read once. */
const anchor = /<a\s[^>]{0,2000}?href\s*=\s*(?:"([^"<>]{1,2000})"|'([^'<>]{1,2000})')[^>]{0,2000}>([^<]{0,500})<\/a>/gi;

/** Links between these stand side by side. */
const between = /(?<=[\s,;|])(?=https?:\/\/)/i;

/** Every file that a text names: anchors, one link or several, a path, a data URI. Null where anything else stands in it. */
export function filesFromText(field: string, text: string): FileRef[] | null {
  const trimmed = text.trim();
  if (/<a\s/i.test(trimmed)) return filesFromAnchors(field, trimmed);
  if (!/^(https?:|data:)/i.test(trimmed)) {
    const one = fileFromText(field, trimmed);
    if (one) return [one];
    const lines = trimmed
      .split(/\r?\n/)
      .map(line => line.trim())
      .filter(Boolean);
    const all = lines.length > 1 ? lines.map(line => fileFromText(field, line)) : [];
    return all.length > 0 && all.every(each => each !== null) ? all : null;
  }
  const parts = isData(trimmed) ? [trimmed] : trimmed.split(between);
  const files = parts.map(part => fileFromText(field, withoutSeparators(part)));
  return files.every(each => each !== null) ? files : null;
}

/** Without what parts it from the next. */
function withoutSeparators(part: string): string {
  let end = part.length;
  while (end > 0 && /[\s,;|]/.test(part[end - 1]!)) end -= 1;
  return part.slice(0, end).trim();
}

function filesFromAnchors(field: string, html: string): FileRef[] | null {
  const files: FileRef[] = [];
  const rest = html.replace(anchor, (_, double: string | undefined, single: string | undefined, name: string) => {
    const url = unescaped(double ?? single ?? '');
    const file = /^mailto:/i.test(url) ? null : fileFromText(field, url);
    const shown = unescaped(name).trim();
    if (file) files.push({ ...file, name: shown === '' || /^https?:/i.test(shown) ? file.name : shown });
    return file ? '' : 'x';
  });
  const left = rest.replace(/<br\s*\/?>|<\/?(?:p|li|ul|ol|div|span)>/gi, '').replace(/[\s,;|]/g, '');
  return files.length > 0 && left === '' ? files : null;
}

const entities: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', '#39': "'", apos: "'" };
const unescaped = (text: string): string =>
  text.replace(/&(amp|lt|gt|quot|apos|#39);/g, (_, name: string) => entities[name]!);

/** The file that a text names: a link, a path, or a data URI. */
export function fileFromText(field: string, text: string): FileRef | null {
  const data = dataUri(text);
  if (data) return { field, ...data, url: null };
  const isLink = /^https?:\/\/[^\s<>"][^\n<>"]*$/i.test(text);
  if (!isLink && !isPath(text)) return null;
  const path = upToFirst(text, '?#')
    .split(/[/\\]/)
    .slice(isLink ? 3 : 0);
  return { field, name: percentDecoded(path.at(-1) || 'file'), type: null, size: null, url: text };
}

/** The name, the type and the bytes of a data URI (RFC 2397); null for any other text. */
function dataUri(text: string): Pick<FileRef, 'name' | 'type' | 'size'> | null {
  const comma = /^data:/i.test(text) ? text.indexOf(',') : -1;
  if (comma < 0) return null;
  const head = text.slice('data:'.length, comma);
  const type = upToFirst(head, ';') || null;
  const content = text.slice(comma + 1);
  const [, named] = /;(?:name|filename)=([^;]+)/i.exec(head) ?? [];
  const name = named ? percentDecoded(named.replace(/^"(.*)"$/, '$1')) : 'file';
  if (!/;base64$/i.test(head)) return { name, type, size: new TextEncoder().encode(percentDecoded(content)).length };
  return { name, type, size: bytesInBase64(content) };
}

/** Bytes that a text in Base64 (RFC 4648 §4) stands for; blanks and line ends do not count. */
export const bytesInBase64 = (text: string): number =>
  Math.floor((withoutEnd(text.replace(/\s+/g, ''), '=').length * 3) / 4);

/** `/uploads/2026/plan.pdf`, `store:photos/a.jpg`: a place in the builder's own store, in one line and with an ending. */
export const isPath = (text: string): boolean =>
  text.length <= LONGEST_PATH &&
  /^[^\s?*"<>|][^\n?*"<>|]*$/.test(text) &&
  /^[^/\\]+\.[a-z\d]{1,8}$/i.test(behindLast(text, '/\\')) &&
  /[/\\]/.test(text) &&
  !/^https?:/i.test(text);

/** Characters. */
const LONGEST_PATH = 2000;

/** Words in the address of what somebody uploaded. Common practice, no source. */
const store =
  /(^|[/.:_-])(uploads?|files?|attachments?|userfiles|submissions?|media|storage|blobs?|filestore|dl|downloads?)([/.:_-]|$)/i;

/**
 * True for a link into a store of uploads: with the ending of a file, and signed for a while or under a name that such stores
 * have.
 */
export function isUploadLink(text: string): boolean {
  if (!/^https?:\/\/\S+$/i.test(text) || text.length > LONGEST_PATH) return false;
  const bare = upToFirst(text, '?#');
  if (!/\.[a-z\d]{2,5}$/i.test(bare) || /\.(html?|php|aspx?|jsp)$/i.test(bare)) return false;
  return /[?&](token|sig|signature|expires|x-amz-\w+|key)=/i.test(text) || store.test(bare.slice('https://'.length));
}
