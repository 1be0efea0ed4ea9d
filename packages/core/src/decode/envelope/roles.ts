import { isJsonObject, wordsOf, type Json, type JsonObject, type Submission } from '../../submission';

/**
 * The general words with which payloads name what is not an answer. They only weigh where the structure leaves
 * a choice. Common practice, no source.
 */
const vocabulary = {
  id: ['id', 'uid', 'uuid', 'guid', 'key', 'ref', 'slug', 'code', 'number', 'no', 'token', 'handle', 'identifier'],
  name: ['name', 'title', 'label', 'heading', 'caption'],
  wording: ['label', 'title', 'question', 'ask', 'prompt', 'text', 'name', 'caption', 'wording', 'heading', 'asked'],
  kind: ['type', 'kind', 'as', 'widget', 'control', 'format', 'input'],
  answer: [
    'answer',
    'value',
    'response',
    'reply',
    'content',
    'given',
    'data',
    'result',
    'input',
    'entered',
    'values',
    'answers',
  ],
  form: ['form', 'survey', 'questionnaire', 'template'],
  submission: ['submission', 'response', 'entry', 'event', 'record', 'reply', 'result'],
  time: [
    'submitted',
    'created',
    'received',
    'completed',
    'sent',
    'finished',
    'ended',
    'timestamp',
    'time',
    'when',
    'at',
    'on',
    'date',
  ],
  sender: [
    'ip',
    'address',
    'agent',
    'browser',
    'referrer',
    'referer',
    'client',
    'remote',
    'user',
    'device',
    'host',
    'locale',
    'language',
    'version',
    'source',
    'url',
    'uri',
    'hidden',
    'score',
    'status',
    'meta',
    'metadata',
    'network',
    'duration',
    'spam',
    'test',
  ],
} satisfies Record<string, string[]>;

export type Role = keyof typeof vocabulary;

/** True when one of the name's words belongs to the role. */
export const speaksOf = (name: string, role: Role): boolean =>
  wordsOf(name).some(word => vocabulary[role].includes(word));

/** True when all of the name's words belong to the roles. */
export const speaksOnlyOf = (name: string, ...roles: Role[]): boolean => {
  const words = wordsOf(name);
  return words.length > 0 && words.every(word => roles.some(role => vocabulary[role].includes(word)));
};

const isScalar = (value: Json | undefined): value is string | number =>
  typeof value === 'string' || typeof value === 'number';

/** RFC 3339 and its near kin, or seconds or milliseconds since the epoch within this century. */
const isTime = (value: Json): boolean =>
  typeof value === 'string'
    ? /^\d{4}-\d\d-\d\d([T ]\d\d:\d\d|$)/.test(value)
    : typeof value === 'number' &&
      ((value > 946684800 && value < 4102444800) || (value > 946684800000 && value < 4102444800000));

/** Form, submission id and time from what stands around the answers; everything else there becomes meta. */
export function surroundings(around: JsonObject): Pick<Submission, 'form' | 'id' | 'submittedAt' | 'meta'> {
  const meta: Record<string, Json> = {};
  let form: Submission['form'] = null;
  let formKey: string | null = null;
  let formName: string | null = null;
  let id: string | null = null;
  let submittedAt: string | null = null;
  for (const [name, value] of Object.entries(around)) {
    const ofForm = speaksOf(name, 'form');
    if (ofForm && isJsonObject(value)) {
      for (const [inner, each] of Object.entries(value)) {
        if (isScalar(each) && speaksOf(inner, 'id') && formKey === null) formKey = String(each);
        else if (isScalar(each) && speaksOf(inner, 'name') && formName === null) formName = String(each);
        else if (isScalar(each)) meta[`${name}.${inner}`] = each;
      }
    } else if (ofForm && isScalar(value) && speaksOf(name, 'name')) formName ??= String(value);
    else if (ofForm && isScalar(value)) formKey ??= String(value);
    else if (id === null && isScalar(value) && isIdentifier(name)) id = String(value);
    else if (submittedAt === null && isTime(value) && speaksOf(name, 'time')) submittedAt = String(value);
    else meta[name] = value;
  }
  if (formKey !== null || formName !== null) form = { key: formKey ?? formName!, name: formName };
  return { form, id, submittedAt, meta };
}

/** `id`, `submissionId`, `entry_uuid`: an identifier of the submission, not of something else. */
function isIdentifier(name: string): boolean {
  const words = wordsOf(name);
  if (words.length === 1 && ['submission', 'entry', 'event', 'record'].includes(words[0]!)) return true;
  if (!words.some(word => ['id', 'uid', 'uuid', 'guid', 'ref', 'token', 'number'].includes(word))) return false;
  return words.length === 1 || speaksOf(name, 'submission');
}
