import { asText, isBlank, isJsonObject, parseJson, type Json, type JsonObject } from '../submission';

/** One thing a target has against a value, as it says it. */
export interface Said {
  /** Which value: a JSON Pointer, or a name; empty for none. */
  where: string;
  message: string;
}

/** What a target says against a request: problem details (RFC 9457) and the shapes that are common beside them. */
export function saidIn(body: string): { main: string | null; parts: Said[] } {
  const document = parseJson(body);
  if (!isJsonObject(document)) {
    const plain = body.trim() && !/^\s*</.test(body) ? body.trim().slice(0, 200) : null;
    return { main: plain, parts: [] };
  }
  const inner = isJsonObject(document.error) ? document.error : document;
  const main = firstText([inner.detail, inner.message, inner.title, inner.error_description, document.error]);
  const errors = [inner.errors, document.errors].find(each => each !== undefined);
  return { main, parts: partsOf(errors) };
}

/** A list of objects or of texts, or an object of texts or lists by the fields' names. */
function partsOf(errors: Json | undefined): Said[] {
  if (Array.isArray(errors))
    return errors.slice(0, 100).flatMap((each): Said[] => {
      if (typeof each === 'string') return [{ where: '', message: each }];
      if (!isJsonObject(each)) return [];
      const where = Array.isArray(each.path) ? each.path.map(asText).join('.') : null;
      const message = firstText([each.detail, each.message, each.title, each.code]);
      const named = firstText([each.pointer, each.field, each.path, each.property, each.param, each.name]);
      return [{ where: named ?? where ?? '', message: message ?? '' }];
    });
  if (!isJsonObject(errors ?? null)) return [];
  return Object.entries(errors as JsonObject).flatMap(([where, said]) =>
    (Array.isArray(said) ? said : [said]).map(each => ({ where, message: asText(each) })),
  );
}

/** Members whose `false` says that a request failed. Common practice, no source. */
const successNames = ['success', 'ok', 'succeeded', 'isSuccess'];

/**
 * What a response with a success status says against its request; null where it says nothing. JSend (from memory) has the status `fail` with
 * `data`, or `error` with a `message`; others a member such as `success` that is false.
 */
export function refusalIn(body: string): string | null {
  const document = parseJson(body);
  if (!isJsonObject(document)) return null;
  const saysNo =
    successNames.some(name => document[name] === false) ||
    (document.status === 'fail' && document.data !== undefined) ||
    (document.status === 'error' && typeof document.message === 'string');
  if (!saysNo) return null;
  const data = isJsonObject(document.data ?? null) ? partsOf(document.data) : [];
  const about = data.map(({ where, message }) => `${where}: ${message}`).join(' ');
  return complaintIn(body) ?? (about.slice(0, 500) || 'It does not say why.');
}

/** What the target complains of, in a line. */
export function complaintIn(body: string): string | null {
  const { main, parts } = saidIn(body);
  const complaints = parts.map(({ where, message }) => [where, message].filter(Boolean).join(': '));
  return [main, ...complaints].filter(Boolean).join(' ').slice(0, 500) || null;
}

const firstText = (values: (Json | undefined)[]): string | null =>
  values.find((value): value is string => typeof value === 'string' && value !== '') ?? null;

/** Words of a refusal that is about who asks rather than about what is asked. *Common practice, no source.* */
const aboutAccess =
  /key|token|credential|auth|permi|scope|forbidden|access|allow|role|licen[cs]e|subscri|plan|sign|log[ -]?in|secret|password|account|suspend|denied/i;

/**
 * True for a status that says that the credentials are wrong or not enough (RFC 9110 §15.5.2, §15.5.4): 401, and 403 unless the
 * response gives a reason of another kind.
 */
export function isAboutCredentials(status: number, body: string): boolean {
  if (status === 401) return true;
  if (status !== 403) return false;
  const complaint = complaintIn(body);
  return complaint === null || aboutAccess.test(complaint);
}

/** Members that hold what went wrong, and words of a status that say so. *Common practice, no source.* */
const faultNames = /^(errors?|error_?message|faults?|failures?)$/i;
const statusNames = /^(status|result|outcome)$/i;
const faultWords = /^(error|err|fail|failed|failure|rejected|denied|invalid|nok|ko|not ok)$/i;

/**
 * What a response with a success status may say against its request; null where it says nothing of the kind. A record with an
 * identifier of its own may have such members and was stored, so this is told, and refuses nothing.
 */
export function doubtIn(body: string): string | null {
  const document = parseJson(body);
  if (!isJsonObject(document))
    return /^\s*(error|failed|failure|invalid|rejected)\b/i.test(body) ? body.trim().slice(0, 200) : null;
  if (['id', '_id', 'uuid'].some(name => !isBlank(document[name] ?? null))) return null;
  const says = Object.entries(document).some(
    ([name, value]) =>
      (faultNames.test(name) && holdsSomething(value)) ||
      (statusNames.test(name) && typeof value === 'string' && faultWords.test(value.trim())),
  );
  return says ? (complaintIn(body) ?? 'It does not say why.') : null;
}

/** True for a member that says something: neither blank, nor false, nor 0, nor empty. */
const holdsSomething = (value: Json): boolean =>
  !isBlank(value) && value !== false && value !== 0 && !(isJsonObject(value) && Object.keys(value).length === 0);
