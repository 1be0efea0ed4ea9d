import { isJsonObject, setOwn, wordsOf, type Json, type JsonObject, type Submission } from '../../submission';
import { most } from '../notes';

/**
 * The general words with which payloads name what is not an answer. They only weigh where the structure leaves
 * a choice. Common practice, no source.
 */
const vocabulary = {
  id: [
    'kennung',
    'identifiant',
    'schluessel',
    'clave',
    'cle',
    'nummer',
    'numero',
    'id',
    'ids',
    'uid',
    'uuid',
    'guid',
    'key',
    'ref',
    'reference',
    'slug',
    'code',
    'number',
    'no',
    'nr',
    'token',
    'handle',
    'identifier',
    'hash',
  ],
  name: ['titel', 'titre', 'titulo', 'nom', 'nombre', 'naam', 'name', 'title', 'label', 'heading', 'caption'],
  wording: [
    'libelle',
    'intitule',
    'frage',
    'pregunta',
    'etiqueta',
    'vraag',
    'titel',
    'titre',
    'titulo',
    'bezeichnung',
    'beschriftung',
    'enonce',
    'legend',
    'label',
    'labels',
    'title',
    'question',
    'ask',
    'asked',
    'prompt',
    'text',
    'name',
    'caption',
    'wording',
    'heading',
    'header',
    'display',
  ],
  kind: [
    'art',
    'typ',
    'tipo',
    'sorte',
    'soort',
    'type',
    'kind',
    'as',
    'widget',
    'control',
    'format',
    'input',
    'component',
    'element',
  ],
  answer: [
    'reponse',
    'reponses',
    'antwort',
    'antworten',
    'respuesta',
    'respuestas',
    'antwoord',
    'antwoorden',
    'valeur',
    'valeurs',
    'wert',
    'werte',
    'valor',
    'valores',
    'eingabe',
    'answer',
    'answers',
    'answered',
    'value',
    'values',
    'val',
    'response',
    'responses',
    'reply',
    'content',
    'given',
    'data',
    'result',
    'entered',
    'selected',
    'chosen',
    'entry',
  ],
  form: [
    'formulaire',
    'formulario',
    'formulier',
    'fragebogen',
    'encuesta',
    'enquete',
    'form',
    'survey',
    'questionnaire',
    'template',
    'formular',
    'quiz',
    'poll',
  ],
  submission: [
    'soumission',
    'envoi',
    'einsendung',
    'envio',
    'inzending',
    'eingang',
    'submission',
    'submissions',
    'response',
    'responses',
    'entry',
    'entries',
    'event',
    'events',
    'record',
    'records',
    'reply',
    'result',
    'results',
    'delivery',
    'message',
    'request',
    'webhook',
  ],
  time: [
    'datum',
    'soumis',
    'eingegangen',
    'fecha',
    'enviado',
    'ingezonden',
    'zeitpunkt',
    'horodatage',
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
    'landed',
    'updated',
    'started',
    'modified',
    'occurred',
    'datetime',
    'utc',
    'added',
    'lodged',
    'posted',
    'recorded',
    'logged',
    'filed',
    'entered',
    'ts',
  ],
  sender: [
    'ip',
    'address',
    'addr',
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
    'lang',
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
    'session',
    'platform',
    'os',
    'country',
    'account',
    'workspace',
    'team',
    'api',
    'schema',
    'signature',
    'tracking',
    'utm',
    'page',
    'origin',
    'context',
    'respondent',
    'visitor',
    'type',
    'action',
    'attempt',
    'environment',
    'variables',
    'system',
    'sender',
  ],
} satisfies Record<string, string[]>;

export type Role = keyof typeof vocabulary;

const words = Object.fromEntries(Object.entries(vocabulary).map(([role, list]) => [role, new Set(list)])) as Record<
  Role,
  Set<string>
>;
const known = new Map<string, string[]>();
const MOST_KNOWN = 20_000;

/** The words of a property's name; remembered, since payloads repeat their names. */
export function nameWords(name: string): string[] {
  const head = name.length > 200 ? name.slice(0, 200) : name;
  const before = known.get(head);
  if (before) return before;
  if (known.size > MOST_KNOWN) known.clear();
  const found = wordsOf(withoutMarks(head));
  known.set(head, found);
  return found;
}

/** `libellé` as `libelle`: accents do not tell names apart (UAX #15, decomposed, marks taken off). */
const withoutMarks = (name: string): string => name.normalize('NFD').replace(/\p{M}/gu, '');

/** True when one of the name's words belongs to the role. */
export const speaksOf = (name: string, role: Role): boolean => nameWords(name).some(word => words[role].has(word));

/** True when all of the name's words belong to the roles. */
export const speaksOnlyOf = (name: string, ...roles: Role[]): boolean => {
  const all = nameWords(name);
  return all.length > 0 && all.every(word => roles.some(role => words[role].has(word)));
};

const isScalar = (value: Json | undefined): value is string | number =>
  typeof value === 'string' || typeof value === 'number';

/** RFC 3339 and its near kin, or seconds or milliseconds since the epoch within this century. */
export const isTime = (value: Json): boolean =>
  typeof value === 'string'
    ? /^\d{4}-\d\d-\d\d([T ]\d\d:\d\d|$)/.test(value) ||
      /^\w{3}, \d{1,2} \w{3} \d{4} \d\d:\d\d/.test(value) ||
      (/^\d{10}(\d{3})?$/.test(value) && isTime(Number(value)))
    : typeof value === 'number' &&
      ((value > 946684800 && value < 4102444800) || (value > 946684800000 && value < 4102444800000));

/** How much a name says that it holds the time of the submission: submitted before created, before anything else. */
function timeRank(name: string): number {
  const all = nameWords(name);
  if (
    all.some(word =>
      [
        'submitted',
        'completed',
        'finished',
        'ended',
        'landed',
        'sent',
        'received',
        'lodged',
        'posted',
        'filed',
      ].includes(word),
    )
  )
    return 3;
  if (
    all.some(word =>
      ['created', 'added', 'recorded', 'logged', 'entered', 'timestamp', 'time', 'when', 'ts'].includes(word),
    )
  )
    return 2;
  if (all.some(word => ['started', 'updated', 'modified', 'birth'].includes(word))) return 0;
  return speaksOf(name, 'time') ? 1 : 0;
}

/** How much a name says that it identifies the submission. */
function idRank(name: string): number {
  const all = nameWords(name);
  const last = all.at(-1) ?? '';
  const isId = words.id.has(last) && last !== 'code';
  const of = all.slice(0, -1);
  if (
    isId &&
    of.length > 0 &&
    of.every(word => ['submission', 'response', 'entry', 'reply', 'result', 'record', 'row'].includes(word))
  )
    return 4;
  if (all.length === 1 && ['submission', 'entry', 'response', 'reply'].includes(all[0]!)) return 3;
  if (isId && of.length === 0) return ['id', 'uid', 'uuid', 'guid'].includes(last) ? 3 : 2;
  if (isId && of.every(word => ['event', 'message', 'request', 'delivery', 'webhook'].includes(word))) return 1;
  return 0;
}

/** Form, submission id and time from what stands around the answers; everything else there becomes meta. */
export function surroundings(around: JsonObject): Pick<Submission, 'form' | 'id' | 'submittedAt' | 'meta'> {
  const flat = Object.entries(around)
    .slice(0, most.around)
    .flatMap(([name, value]): [string, string, Json][] => {
      const opens = isJsonObject(value) && !speaksOf(name, 'form');
      const inner = opens
        ? Object.entries(value as JsonObject)
            .slice(0, most.around)
            .filter(([, each]) => isScalar(each))
        : [];
      return [
        [name, name, value],
        ...inner.map(([key, each]): [string, string, Json] => [`${name}.${key}`, key, each]),
      ];
    });
  // What stands inside an object about something else says less than what stands beside the answers.
  const weight = (rank: (name: string) => number, [path, name]: [string, string, Json]) => {
    const outer = path.slice(0, Math.max(0, path.length - name.length - 1));
    return rank(name) - (outer === '' || speaksOnlyOf(outer, 'submission') ? 0 : 1.5);
  };
  const pick = (rank: (name: string) => number, fits: (value: Json) => boolean) =>
    flat
      .filter(each => rank(each[1]) > 0 && weight(rank, each) > 0 && fits(each[2]))
      .sort((a, b) => weight(rank, b) - weight(rank, a))[0] ?? null;
  const time = pick(timeRank, isTime);
  const id = pick(idRank, value => isScalar(value) && String(value).trim() !== '');
  const { form, used } = formIn(around);
  const taken = new Set([time?.[0], id?.[0], ...used]);
  const meta: Record<string, Json> = {};
  for (const [name, value] of Object.entries(around)) if (!taken.has(name)) setOwn(meta, name, value);
  return { form, id: id ? String(id[2]) : null, submittedAt: time ? String(time[2]) : null, meta };
}

/** The form's key and name, stated flat (`form_id`, `formName`) or in an object (`form: { id, title }`). */
function formIn(around: JsonObject): { form: Submission['form']; used: string[] } {
  const own = formAmong(around);
  if (own.form) return own;
  // `meta: { form_id, form_name }`: beside other things, which stay where they are.
  for (const [name, value] of Object.entries(around).slice(0, most.around)) {
    if (!isJsonObject(value) || speaksOf(name, 'form')) continue;
    const { form } = formAmong(value);
    if (form) return { form, used: [] };
  }
  return own;
}

function formAmong(around: JsonObject): { form: Submission['form']; used: string[] } {
  const used: string[] = [];
  let key: string | null = null;
  let name: string | null = null;
  for (const [property, value] of Object.entries(around).slice(0, most.around)) {
    if (!speaksOf(property, 'form') || speaksOf(property, 'time')) continue;
    if (isJsonObject(value)) {
      for (const [inner, each] of Object.entries(value).slice(0, most.around)) {
        if (!isScalar(each)) continue;
        if (key === null && speaksOf(inner, 'id') && !speaksOf(inner, 'sender')) key = String(each);
        else if (name === null && speaksOf(inner, 'name')) name = String(each);
      }
      used.push(property);
    } else if (isScalar(value)) {
      if (speaksOf(property, 'name')) name ??= String(value);
      else if (speaksOf(property, 'id')) key ??= String(value);
      else if (nameWords(property).length === 1) {
        if (/\s|^\p{Lu}/u.test(String(value))) name ??= String(value);
        else key ??= String(value);
      } else continue;
      used.push(property);
    }
  }
  return { form: key === null && name === null ? null : { key: key ?? name!, name }, used };
}

/** `id`, `form_name`, `submittedAt`, `ip_address`: keys that name what surrounds the answers, when they stand among them. */
export function isEnvelopeKey(name: string, value: Json): boolean {
  if (/\s/.test(name.trim())) return false;
  if (speaksOf(name, 'form') && speaksOnlyOf(name, 'form', 'id', 'name', 'sender', 'time')) return true;
  if (
    timeRank(name) >= 2 &&
    speaksOnlyOf(name, 'time', 'submission') &&
    isTime(value) &&
    !/^(time|date|when)$/i.test(name)
  )
    return true;
  if (
    /^_?(id|uid|uuid|guid|ip|ip[_-]?addr(ess)?|remote[_-]?(addr|ip)|user[_-]?agent|referr?er|referr?er[_-]?url|page[_-]?url|source[_-]?url|http[_-]?\w+|csrf\w*|_?token|utm[_-]\w+|gclid|honeypot|g[_-]recaptcha[_-]response)$/i.test(
      name,
    )
  )
    return true;
  return idRank(name) >= 3 && isScalar(value);
}
