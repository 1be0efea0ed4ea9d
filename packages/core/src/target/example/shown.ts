import { parse } from 'shell-quote';
import { isJsonObject, parseJson, type Json, type JsonObject } from '../../submission';

/** A request as an example shows it. */
export interface Shown {
  method: string;
  url: string;
  headers: [name: string, value: string][];
  body: string | null;
  /** Names of parts that are files. */
  files: string[];
  /** True where the body is a file, whose content nobody sees. */
  isFile?: boolean;
  /** User and password, where they stand beside the request. */
  user: string | null;
  /** What it was answered with, where that was data. */
  answer?: Json;
}

const nothingShown = (): Shown => ({ method: '', url: '', headers: [], body: null, files: [], user: null });

/** True for a text of curl lines. */
export const isCurl = (text: string): boolean => /^\s*(\$\s+)?curl(\.exe)?\s/i.test(text);

/** Curl lines as they are copied out of a browser or a manual: each begins a line of the text with `curl`. */
export const curlRequests = (text: string): Shown[] =>
  text
    .replace(/[\\^]\r?\n/g, ' ')
    .split('\n')
    .reduce<string[]>((lines, line) => {
      if (isCurl(line) || lines.length === 0) lines.push(line);
      else lines[lines.length - 1] += `\n${line}`;
      return lines;
    }, [])
    .filter(isCurl)
    .map(line => curlRequest(line.replace(/^\s*(\$\s+)?/, '')));

/** Options of curl that take a value which says nothing of the request. */
const passedOver =
  /^(-o|--output|-A|--user-agent|-e|--referer|-b|--cookie|-c|--cookie-jar|-m|--max-time|--connect-timeout|--retry|-w|--write-out|-x|--proxy|--cacert|--cert|--key)$/;

function curlRequest(line: string): Shown {
  // The name of a variable of the shell says more than nothing: `$ID` stays as `{ID}`.
  const words = parse(line, name => `{${name}}`)
    .map(each => (typeof each === 'string' ? each : 'op' in each && each.op === 'glob' ? each.pattern : ''))
    .filter(Boolean);
  const shown = nothingShown();
  const parts: string[] = [];
  let inQuery = false;
  const add = (content: string, mayBeFile = true) => {
    if (mayBeFile && content.startsWith('@')) shown.isFile = true;
    else parts.push(content);
  };
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
    } else if (/^(-d|--data(-raw|-binary|-ascii|-urlencode)?)$/.test(flag)) add(value(), flag !== '--data-raw');
    else if (flag === '--json') {
      add(value());
      shown.headers.push(['content-type', 'application/json']);
    } else if (flag === '-T' || flag === '--upload-file') {
      add(`@${value()}`);
      shown.method ||= 'PUT';
    } else if (/^(-F|--form(-string)?)$/.test(flag)) {
      const [name = '', content = ''] = splitOnce(value(), '=');
      if (/^[@<]/.test(content) && flag !== '--form-string') shown.files.push(name);
      else parts.push(`${encodeURIComponent(name)}=${encodeURIComponent(content)}`);
      shown.headers.push(['content-type', 'multipart/form-data']);
    } else if (flag === '-G' || flag === '--get') inQuery = true;
    else if (flag === '-u' || flag === '--user') shown.user = value();
    else if (flag === '--oauth2-bearer') shown.headers.push(['authorization', `Bearer ${value()}`]);
    else if (flag === '--url') shown.url = value();
    else if (passedOver.test(flag)) value();
    else if (!flag.startsWith('-')) shown.url = flag;
  }
  const body = parts.length > 0 ? parts.join('&') : null;
  if (inQuery && body) shown.url += `${shown.url.includes('?') ? '&' : '?'}${body}`;
  else shown.body = body ?? (shown.files.length > 0 || shown.isFile ? '' : null);
  shown.method ||= shown.body !== null ? 'POST' : 'GET';
  if (!/^\w+:/.test(shown.url) && shown.url) shown.url = `http://${shown.url}`;
  return shown;
}

function splitOnce(text: string, by: string): [string, string] {
  const at = text.indexOf(by);
  return at < 0 ? [text, ''] : [text.slice(0, at), text.slice(at + 1)];
}

const objectOr = (value: Json | undefined): JsonObject => (isJsonObject(value ?? null) ? (value as JsonObject) : {});

/** The requests of a HAR file (HTTP Archive 1.2), with what they were answered; null where the document is none. */
export function harRequests(document: Json): Shown[] | null {
  const { entries } = objectOr(objectOr(document).log);
  return Array.isArray(entries) ? entries.flatMap(harRequest) : null;
}

function harRequest(entry: Json): Shown[] {
  const { method, url, headers, postData } = objectOr(objectOr(entry).request);
  if (typeof url !== 'string' || typeof method !== 'string') return [];
  const data = objectOr(postData);
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
  const answer = answerOf(objectOr(objectOr(entry).response));
  return [
    {
      ...nothingShown(),
      method,
      url,
      headers: [...named(headers), ...type],
      body,
      files: files.map(each => String(each.name)),
      ...(answer !== undefined && { answer }),
    },
  ];
}

/** The data that a request went well with; undefined where it did not, or where that is no JSON. */
function answerOf({ status, content }: JsonObject): Json | undefined {
  if (typeof status !== 'number' || status < 200 || status > 299) return undefined;
  const { text, encoding } = objectOr(content);
  return typeof text === 'string' && encoding !== 'base64' ? parseJson(text) : undefined;
}
