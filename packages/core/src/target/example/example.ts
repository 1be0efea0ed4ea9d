import { nestedFromPairs } from '../../decode';
import { isJsonObject, parseJson, type Json, type JsonObject } from '../../submission';
import { methods, type AnswerField, type BodyKind, type Operation, type TargetField } from '../operation';
import { withOwnKeys } from '../ownKeys';
import { operationWords } from '../operationWords';
import { answerFields } from './answer';
import { credentialsIn, isSecretName, withoutSecrets, type ShownCredentials } from './credentials';
import { fieldOf, fieldsOf } from './fields';
import { curlRequests, harRequests, isCurl, type Shown } from './shown';

/** Operations made from examples, and what else the examples show. */
export interface ReadExample {
  operations: Operation[];
  /** The base address they were sent to, where they say it. */
  baseUrl: string | null;
  /** Who asked. */
  credentials: ShownCredentials | null;
  /** The text without the secrets in it. */
  text: string;
}

const MOST_REQUESTS = 200;

/**
 * Operations from what people have at hand: curl lines, a HAR file (HTTP Archive 1.2), or a record in JSON as the target
 * takes it. Paths are below the base address, where that is given and the requests went there. Never throws.
 */
export function readExample(text: string, baseUrl = ''): ReadExample | { fault: string } {
  const plain = text.trim();
  if (isCurl(plain)) return fromRequests(curlRequests(plain), text, baseUrl);
  const document = parseJson(plain);
  if (document === undefined) return { fault: 'Not a curl command, HAR file or JSON record.' };
  const requests = harRequests(document);
  if (requests) return fromRequests(requests, text, baseUrl);
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
  return { operations: [create], baseUrl: null, credentials: null, text };
}

/** Headers that are set by others than a mapping. */
const ownHeaders =
  /^(accept.*|content-.*|authorization|cookie|host|user-agent|referer|origin|connection|cache-control|pragma|dnt|sec-.*|te|:.*|x-requested-with|priority|idempotency-key|if-.*|upgrade-insecure-requests)$/i;

function fromRequests(requests: Shown[], text: string, baseUrl: string): ReadExample | { fault: string } {
  const known = requests
    .map(each => ({ ...each, url: withPlaces(each.url) }))
    .filter(({ url, method }) => URL.canParse(url) && methods.includes(method.toUpperCase() as never))
    .slice(0, MOST_REQUESTS);
  const first = known[0];
  if (!first) return { fault: 'No request with a complete URL found.' };
  const { origin } = new URL(first.url);
  const own = known.filter(each => new URL(each.url).origin === origin);
  const base = URL.canParse(baseUrl) && new URL(baseUrl).origin === origin ? new URL(baseUrl).pathname : '/';
  const operations = new Map<string, Operation>();
  for (const shown of own) {
    const operation = operationOf(shown, base.replace(/\/$/, ''));
    const before = operations.get(operation.id);
    operations.set(operation.id, before ? together(before, operation) : operation);
  }
  return {
    operations: [...operations.values()],
    baseUrl: origin,
    credentials: credentialsIn(own),
    text: withoutSecrets(text, own),
  };
}

/** Places for values in an address, however they are marked: `{id}`, `:id`, `<id>`, in a form that an address may hold. */
function withPlaces(url: string): string {
  const [host = ''] = /^\w+:\/\/[^/?#]*/.exec(url) ?? [];
  if (!host) return url;
  const [path = ''] = /^[^?#]*/.exec(url.slice(host.length)) ?? [];
  const rest = url.slice(host.length + path.length);
  const marked = path
    .replace(/(?<=\/):([A-Za-z_]\w*)/g, '{$1}')
    .replace(/%7B([^/%]+)%7D/gi, '{$1}')
    .replace(/<([^/<>]+)>|%3C([^/%]+)%3E/gi, (_, plain?: string, encoded?: string) => `{${plain ?? encoded}}`);
  return `${host}${marked}${rest}`;
}

/** What two requests to the same place show: the fields of both. What is always the same in both stays so; what is not, varies. */
function together(a: Operation, b: Operation): Operation {
  const others = new Map(b.fields.map(field => [field.key, field]));
  const keys = new Set(a.fields.map(field => field.key));
  const fields = a.fields.map(({ fixed, ...field }): TargetField => {
    const other = others.get(field.key);
    const stays = fixed !== undefined && (other === undefined || JSON.stringify(other.fixed) === JSON.stringify(fixed));
    return { ...field, ...(stays && { fixed }) };
  });
  const answer = new Map([...(a.answer ?? []), ...(b.answer ?? [])].map(each => [each.pointer, each]));
  return {
    ...a,
    fields: [...fields, ...b.fields.filter(field => !keys.has(field.key))],
    ...(answer.size > 0 && { answer: [...answer.values()] }),
  };
}

/** How a body is written, by its type and by what it looks like. */
function bodyKind(body: string | null, type: string, json: Json | undefined): BodyKind {
  if (body === null) return 'none';
  if (/multipart\/form-data/i.test(type)) return 'multipart';
  if (json !== undefined && !/urlencoded/i.test(type)) return 'json';
  if (/xml/i.test(type)) return 'text';
  return /=/.test(body) ? 'urlencoded' : 'text';
}

/** What is below a base path; the whole path where it is not. */
const below = (pathname: string, base: string): string =>
  pathname === base || pathname.startsWith(`${base}/`) ? pathname.slice(base.length) || '/' : pathname;

function operationOf({ method, url, headers, body, files, isFile, answer }: Shown, base: string): Operation {
  const { pathname, searchParams } = new URL(url);
  const upper = method.toUpperCase() as Operation['method'];
  const type = headers.find(([name]) => name.toLowerCase() === 'content-type')?.[1] ?? '';
  const json = body === null ? undefined : parseJson(body);
  // A file of JSON is a record that is not shown, any other is what the target stores.
  const isRaw = isFile === true && !/json|urlencoded/i.test(type);
  const kind = isRaw ? 'raw' : isFile && /json/i.test(type) ? 'json' : bodyKind(body, type, json);
  const { path, fields: inPath } = pathOf(below(pathname, base));
  const query = [...new Set(searchParams.keys())]
    .filter(name => !isSecretName(name))
    .map((name): TargetField => {
      const value = searchParams.get(name) ?? '';
      return { ...fieldOf(name, value), in: 'query', pointer: name, ...(isConstant(upper, name) && { fixed: value }) };
    });
  const own = headers
    .filter(([name]) => name && !ownHeaders.test(name) && !isSecretName(name))
    .map(([name, value]): TargetField => ({ ...fieldOf(name, value), in: 'header', pointer: name, fixed: value }));
  const learned = answer === undefined ? [] : answerFields(answer);
  const parts = files.map((name): TargetField => ({ ...fieldOf(name, ''), type: 'file' }));
  return {
    id: `${upper} ${path}`,
    label: operationWords(upper, path),
    method: upper,
    path,
    body: kind,
    fields: withOwnKeys([...inPath, ...query, ...own, ...(isFile && !isRaw ? [] : inBody(kind, body, json)), ...parts]),
    ...(learned.length > 0 && { answer: learned satisfies AnswerField[] }),
  };
}

function inBody(kind: BodyKind, body: string | null, json: Json | undefined): TargetField[] {
  if (kind === 'raw') return [{ ...fieldOf('body', ''), label: 'File', pointer: '', type: 'file', required: true }];
  if (kind === 'text') return [{ ...fieldOf('body', body ?? ''), pointer: '', type: 'text' }];
  if (kind === 'json')
    return isJsonObject(json ?? null)
      ? fieldsOf(json as JsonObject)
      : [{ ...fieldOf('body', json ?? null), pointer: '' }];
  return kind === 'urlencoded' || kind === 'multipart'
    ? fieldsOf(nestedFromPairs([...new URLSearchParams(body ?? '')]))
    : [];
}

/** What a parameter of the query says of the request rather than of a record: all of a write, versions and formats of the rest. */
const isConstant = (method: Operation['method'], name: string): boolean =>
  method !== 'GET' || /^(v|version|api[-_]?version|format|output|lang|locale)$/i.test(name);

/** A path in which places for values, and what looks like an identifier, are parameters. *Common practice, no source.* */
function pathOf(pathname: string): { path: string; fields: TargetField[] } {
  const fields: TargetField[] = [];
  const taken = new Set<string>();
  const add = (name: string, example: string) => {
    let key = name;
    for (let number = 2; taken.has(key); number++) key = `${name}_${number}`;
    taken.add(key);
    fields.push({ ...fieldOf(key, example), in: 'path', pointer: key, required: true, type: 'text' });
    return `{${key}}`;
  };
  const path = pathname
    .split('/')
    .map((raw, index, all) => {
      const part = raw.replace(/%7B/gi, '{').replace(/%7D/gi, '}');
      if (/\{[^{}]+\}/.test(part)) return part.replace(/\{([^{}]+)\}/g, (_, name: string) => add(keyOf(name), ''));
      if (!/^(\d+|[0-9a-f]{8}-[0-9a-f-]{27}|(?=[a-z0-9_-]*\d)[a-z0-9_-]{16,})$/i.test(part)) return part;
      // A short number tells one of many where the part before names many, or nothing follows: `/api/2/…` is a version.
      if (/^\d\d?$/.test(part) && !/s$/i.test(all[index - 1] ?? '') && all.length > index + 1) return part;
      const before = all[index - 1]?.replace(/[^\w]/g, '').replace(/s$/, '');
      return add(fields.length === 0 && !before ? 'id' : `${before || 'part'}_id`, part);
    })
    .join('/');
  return { path: path || '/', fields };
}

/** A name that a place in a path may have. */
const keyOf = (name: string): string =>
  name
    .split(/[^\w.-]+/)
    .filter(Boolean)
    .join('_') || 'part';
