import { wordsOf, type Json } from '../../submission';

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

export const isScalar = (value: Json | undefined): value is string | number =>
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
export function timeRank(name: string): number {
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
export function idRank(name: string): number {
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
