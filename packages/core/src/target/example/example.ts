import { operationWords } from '../operationWords';
import { parse } from 'shell-quote';
import { nestedFromPairs } from '../../decode';
import { escapeToken, isJsonObject, labelFromKey, parseJson, type Json, type JsonObject } from '../../submission';
import type { BodyKind, Operation, TargetField, TargetType } from '../operation';

/** Operations made from examples, and the base address they were sent to where they say it. */
export interface ReadExample {
  operations: Operation[];
  baseUrl: string | null;
}

const limits = { requests: 200, fields: 400, nesting: 5 };

/** A request as an example shows it. */
interface Shown {
  method: string;
  url: string;
  headers: [name: string, value: string][];
  body: string | null;
  /** Names of parts that are files. */
  files: string[];
}

/**
 * Operations from what people have at hand: a curl line, a HAR file (HTTP Archive 1.2), or a record in JSON as the target
 * takes it. Never throws.
 */
export function readExample(text: string): ReadExample | { fault: string } {
  const plain = text.trim();
  if (/^curl(\.exe)?\s/i.test(plain)) return fromRequests(curlRequest(plain));
  const document = parseJson(plain);
  if (document === undefined) return { fault: 'It is no curl line, no HAR file and no record in JSON.' };
  const entries =
    isJsonObject(document) && isJsonObject(document.log ?? null) ? (document.log as JsonObject).entries : null;
  if (Array.isArray(entries)) return fromRequests(entries.slice(0, limits.requests).flatMap(harRequest));
  const record = Array.isArray(document) ? document[0] : document;
  if (!isJsonObject(record ?? null)) return { fault: 'A record is an object: {"name": "value"}.' };
  const create: Operation = {
    id: 'create',
    label: 'Add a record',
    method: 'POST',
    path: '/',
    body: 'json',
    fields: fieldsOf(record!),
  };
  return { operations: [create], baseUrl: null };
}

/** A curl line as it is copied out of a browser or a manual. */
function curlRequest(line: string): Shown[] {
  const words = parse(line.replace(/\\\r?\n/g, ' '))
    .map(each => (typeof each === 'string' ? each : 'op' in each && each.op === 'glob' ? each.pattern : ''))
    .filter(Boolean);
  const shown: Shown = { method: '', url: '', headers: [], body: null, files: [] };
  const parts: string[] = [];
  let inQuery = false;
  for (let at = 1; at < words.length; at++) {
    const word = words[at]!;
    const [flag, joined] = /^--[\w-]+=/.test(word)
      ? [word.slice(0, word.indexOf('=')), word.slice(word.indexOf('=') + 1)]
      : [word, null];
    const value = () => joined ?? words[++at] ?? '';
    if (flag === '-X' || flag === '--request') shown.method = value();
    else if (/^-X./.test(flag)) shown.method = flag.slice(2);
    else if (flag === '-H' || flag === '--header') {
      const [name = '', ...rest] = value().split(':');
      shown.headers.push([name.trim(), rest.join(':').trim()]);
    } else if (/^(-d|--data(-raw|-binary|-ascii|-urlencode)?)$/.test(flag)) parts.push(value());
    else if (flag === '--json') {
      parts.push(value());
      shown.headers.push(['content-type', 'application/json']);
    } else if (flag === '-F' || flag === '--form') {
      const [name = '', content = ''] = splitOnce(value(), '=');
      if (/^[@<]/.test(content)) shown.files.push(name);
      else parts.push(`${encodeURIComponent(name)}=${encodeURIComponent(content)}`);
      shown.headers.push(['content-type', 'multipart/form-data']);
    } else if (flag === '-G' || flag === '--get') inQuery = true;
    else if (flag === '--url') shown.url = value();
    else if (/^(-u|--user|-o|--output|-A|--user-agent|-e|--referer|-b|--cookie|-m|--max-time)$/.test(flag)) value();
    else if (!flag.startsWith('-')) shown.url = flag;
  }
  const body = parts.length > 0 ? parts.join('&') : null;
  if (inQuery && body) shown.url += `${shown.url.includes('?') ? '&' : '?'}${body}`;
  else shown.body = body ?? (shown.files.length > 0 ? '' : null);
  shown.method ||= shown.body !== null ? 'POST' : 'GET';
  if (!/^\w+:/.test(shown.url) && shown.url) shown.url = `http://${shown.url}`;
  return [shown];
}

function splitOnce(text: string, by: string): [string, string] {
  const at = text.indexOf(by);
  return at < 0 ? [text, ''] : [text.slice(0, at), text.slice(at + 1)];
}

function harRequest(entry: Json): Shown[] {
  const request = isJsonObject(entry) ? entry.request : null;
  if (!isJsonObject(request ?? null)) return [];
  const { method, url, headers, postData } = request as JsonObject;
  if (typeof url !== 'string' || typeof method !== 'string') return [];
  const data = isJsonObject(postData ?? null) ? (postData as JsonObject) : {};
  const named = (list: Json | undefined): [string, string][] =>
    (Array.isArray(list) ? list : []).flatMap((each): [string, string][] =>
      isJsonObject(each) && typeof each.name === 'string' ? [[each.name, String(each.value ?? '')]] : [],
    );
  const params = named(data.params);
  const body =
    typeof data.text === 'string' && data.text !== ''
      ? data.text
      : params.length > 0
        ? new URLSearchParams(params).toString()
        : null;
  const type = typeof data.mimeType === 'string' ? ([['content-type', data.mimeType]] as [string, string][]) : [];
  const files = (Array.isArray(data.params) ? data.params : []).filter(isJsonObject).filter(each => 'fileName' in each);
  return [{ method, url, headers: [...named(headers), ...type], body, files: files.map(each => String(each.name)) }];
}

const methods: Operation['method'][] = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'];
/** Headers that are set by others than a mapping. */
const ownHeaders =
  /^(accept.*|content-.*|authorization|cookie|host|user-agent|referer|origin|connection|cache-control|pragma|dnt|sec-.*|te|:.*|x-requested-with|priority|idempotency-key|if-.*|upgrade-insecure-requests)$/i;
/** Headers whose values are secrets: those are the target's credentials, not a line's. */
const secretHeaders = /key|token|secret|signature|auth/i;

function fromRequests(requests: Shown[]): ReadExample | { fault: string } {
  const known = requests.filter(
    ({ url, method }) => URL.canParse(url) && methods.includes(method.toUpperCase() as never),
  );
  const first = known[0];
  if (!first) return { fault: 'It holds no request with a whole address.' };
  const { origin } = new URL(first.url);
  const operations = new Map<string, Operation>();
  for (const shown of known.filter(each => new URL(each.url).origin === origin)) {
    const operation = operationOf(shown);
    if (!operations.has(operation.id)) operations.set(operation.id, operation);
  }
  return { operations: [...operations.values()], baseUrl: origin };
}

function operationOf({ method, url, headers, body, files }: Shown): Operation {
  const { pathname, searchParams } = new URL(url);
  const upper = method.toUpperCase() as Operation['method'];
  const type = headers.find(([name]) => name.toLowerCase() === 'content-type')?.[1] ?? '';
  const json = body === null ? undefined : parseJson(body);
  const kind: BodyKind =
    body === null
      ? 'none'
      : /multipart\/form-data/i.test(type)
        ? 'multipart'
        : json !== undefined && !/urlencoded/i.test(type)
          ? 'json'
          : /xml/i.test(type)
            ? 'text'
            : /=/.test(body)
              ? 'urlencoded'
              : 'text';
  const { path, fields: inPath } = pathOf(pathname);
  const query = [...new Set(searchParams.keys())]
    .filter(name => !secretHeaders.test(name))
    .map((name): TargetField => ({ ...fieldOf(name, searchParams.get(name) ?? ''), in: 'query', pointer: name }));
  const own = headers
    .filter(([name]) => name && !ownHeaders.test(name) && !secretHeaders.test(name))
    .map(([name, value]): TargetField => ({ ...fieldOf(name, value), in: 'header', pointer: name }));
  const form =
    kind === 'urlencoded' || kind === 'multipart' ? nestedFromPairs([...new URLSearchParams(body ?? '')]) : {};
  const inBody =
    kind === 'json'
      ? isJsonObject(json ?? null)
        ? fieldsOf(json!)
        : [{ ...fieldOf('body', json ?? null), pointer: '' }]
      : kind === 'text'
        ? [{ ...fieldOf('body', body ?? ''), pointer: '', type: 'text' as const }]
        : fieldsOf(form);
  const parts = files.map((name): TargetField => ({ ...fieldOf(name, ''), type: 'file' }));
  return {
    id: `${upper} ${path}`,
    label: operationWords(upper, path),
    method: upper,
    path,
    body: kind,
    fields: [...inPath, ...query, ...own, ...inBody, ...parts],
  };
}

/** A path in which what looks like an identifier is a parameter. *Common practice, no source.* */
function pathOf(pathname: string): { path: string; fields: TargetField[] } {
  const fields: TargetField[] = [];
  const path = pathname
    .split('/')
    .map((part, index, all) => {
      if (!/^(\d+|[0-9a-f]{8}-[0-9a-f-]{27}|(?=[a-z0-9_-]*\d)[a-z0-9_-]{16,})$/i.test(part)) return part;
      const before = all[index - 1]?.replace(/[^\w]/g, '').replace(/s$/, '');
      const key = fields.length === 0 && !before ? 'id' : `${before || 'part'}_id`;
      fields.push({ ...fieldOf(key, part), in: 'path', pointer: key, required: true, type: 'text' });
      return `{${key}}`;
    })
    .join('/');
  return { path: path || '/', fields };
}

/** The fields of an example record, those inside others by their whole path. */
function fieldsOf(record: Json): TargetField[] {
  const fields: TargetField[] = [];
  const collect = (value: Json, pointer: string, names: string[]) => {
    if (fields.length >= limits.fields) return;
    if (isJsonObject(value) && names.length < limits.nesting && Object.keys(value).length > 0)
      for (const [name, inner] of Object.entries(value))
        collect(inner, `${pointer}/${escapeToken(name)}`, [...names, name]);
    else if (names.length > 0) fields.push({ ...fieldOf(names.join('.'), value), pointer });
  };
  collect(record, '', []);
  return fields;
}

const fieldOf = (key: string, value: Json): TargetField => ({
  key,
  pointer: `/${escapeToken(key)}`,
  label: labelFromKey(key.split('.').at(-1)!),
  type: typeOf(value),
  required: false,
  readOnly: false,
  options: null,
  maxLength: null,
  description: exampleText(value),
  ...(Array.isArray(value) && itemType(value) && { items: itemType(value) }),
});

/** What each item of a list is, where all of them are numbers or marks. */
function itemType(list: Json[]): TargetField['items'] {
  if (list.length === 0) return undefined;
  if (list.every(each => typeof each === 'boolean')) return 'boolean';
  if (!list.every(each => typeof each === 'number')) return undefined;
  return list.every(Number.isInteger) ? 'integer' : 'number';
}

function exampleText(value: Json): string | null {
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  return text === '' || text === 'null' ? null : `such as ${text.slice(0, 80)}`;
}

function typeOf(value: Json): TargetType {
  if (typeof value === 'number') return Number.isInteger(value) ? 'integer' : 'number';
  if (typeof value === 'boolean') return 'boolean';
  if (Array.isArray(value))
    return value.length > 0 && (value.every(each => typeof each === 'string') || itemType(value)) ? 'choices' : 'json';
  if (isJsonObject(value)) return 'json';
  if (typeof value === 'string' && /^\d{4}-\d\d-\d\d$/.test(value)) return 'date';
  if (typeof value === 'string' && /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:\d\d)$/.test(value))
    return 'datetime';
  return 'text';
}
