import { wordsOf, type Json } from '../../submission';

/**
 * The general words with which payloads name what is not an answer. They only weigh where the structure leaves
 * a choice. Common practice, no source.
 */
const vocabulary = {
  id:
    'kennung identifiant schluessel clave cle nummer numero id ids uid uuid guid key ref reference slug ' +
    'code number no nr token handle identifier hash folio numer serial 番号 numeris idnummer volgnummer ' +
    'sygnatura cislo',
  name:
    'titel titre titulo nom nombre naam name title label heading caption nazwa tytul called nombres ' + 'titolo nome',
  wording:
    'libelle intitule frage pregunta etiqueta vraag titel titre titulo bezeichnung beschriftung enonce ' +
    'legend label labels title question ask asked prompt text name caption wording heading header display ' +
    'says said statement pytanie domanda q wortlaut tekst texte texto',
  kind:
    'art typ tipo sorte soort type kind as widget control format input component element sort mode ' +
    'datatype genre rodzaj class',
  answer:
    'reponse reponses antwort antworten respuesta respuestas antwoord antwoorden valeur valeurs wert ' +
    'werte valor valores eingabe answer answers answered value values val response responses reply ' +
    'content given data result entered selected chosen entry got told said is replied input saisie ' +
    'odpowiedz risposta v a waarde',
  form:
    'formulaire formulario formulier fragebogen encuesta enquete form survey questionnaire template ' +
    'formular quiz poll formularz modulo フォーム questionario ankieta kwestionariusz',
  submission:
    'soumission envoi einsendung envio inzending eingang submission submissions response responses entry ' +
    'entries event events record records reply result results delivery message request webhook reception ' +
    'depot receipt ticket run booking zgloszenie zgloszenia zgłoszenia zgłoszenie registration ' +
    'application order row eintrag eintrags beitrag réception recepcion invio',
  time:
    'datum soumis eingegangen fecha enviado ingezonden zeitpunkt horodatage submitted created received ' +
    'completed sent finished ended timestamp time when at on date landed updated started modified ' +
    'occurred datetime utc added lodged posted recorded logged filed entered ts gesendet abgesendet ' +
    'abgeschickt eingereicht erstellt verzonden envoye envoyee recu recue recibido enviada wyslano ' +
    'wysłano wysłania wyslania inviato stamped stamp closed handed reported dated saved arrived uur heure ' +
    'hora data ricevuto submit completion zeitstempel horodatage stempel marca',
  sender:
    'ip address addr agent browser referrer referer client remote user device host locale language lang ' +
    'version source url uri hidden status meta metadata network duration spam test session platform os ' +
    'country account workspace team api schema signature tracking utm page origin context respondent ' +
    'visitor type action attempt environment variables system sender channel lease slot offset score',
  old: 'old previous before prior former was from alt vorher ancien avant anterior',
} satisfies Record<string, string>;

export type Role = keyof typeof vocabulary;

const words = Object.fromEntries(
  Object.entries(vocabulary).map(([role, list]) => [role, new Set(list.split(' '))]),
) as Record<Role, Set<string>>;
const known = new Map<string, string[]>();
const MOST_KNOWN = 20_000;

/** The words of a property's name; remembered, since payloads repeat their names. */
export function nameWords(name: string): string[] {
  const head = name.length > 200 ? name.slice(0, 200) : name;
  const before = known.get(head);
  if (before) return before;
  if (known.size > MOST_KNOWN) known.clear();
  const found = wordsOf(withoutMarks(head.replace(/\bn[°º]|№/gi, 'no ')));
  known.set(head, found);
  return found;
}

/** `libellé` as `libelle`: accents do not tell names apart (UAX #15, decomposed, marks taken off). */
const withoutMarks = (name: string): string => name.normalize('NFD').replace(/\p{M}/gu, '');

/** Ends of words that are written together with what they are of: `Eingangsnummer`, `受付ID`, `送信日時`. */
const endings: Partial<Record<Role, RegExp>> = {
  id: /.(nummer|nr|kennung|番号|\P{Script=Latin}id)$/u,
  time: /.(datum|zeitpunkt|日時|日付)$/u,
  form: /.(formular|formulier|bogen|フォーム)$/u,
};

const isOf = (word: string, role: Role): boolean =>
  words[role].has(word) ||
  (word.length > 3 && word.endsWith('s') && words[role].has(word.slice(0, -1))) ||
  (endings[role]?.test(word) ?? false);

/** True when one of the name's words belongs to the role. */
export const speaksOf = (name: string, role: Role): boolean => nameWords(name).some(word => isOf(word, role));

/** True when all of the name's words belong to the roles. */
export const speaksOnlyOf = (name: string, ...roles: Role[]): boolean => {
  const all = nameWords(name);
  return all.length > 0 && all.every(word => roles.some(role => isOf(word, role)));
};

export const isScalar = (value: Json | undefined): value is string | number =>
  typeof value === 'string' || typeof value === 'number';

/** The notations of dates and times that exports and builders write. Common practice, no source. */
const timeNotations = [
  /^\d{4}[-/.]\d{1,2}[-/.]\d{1,2}([T ,]|$)/,
  /^\d{1,2}[-/.]\d{1,2}[-/.]\d{2,4}([T ,]|$)/,
  /^\d{1,2}\.? \p{L}{3,12}\.?,? \d{2,4}([ ,]|$)/u,
  /^\p{L}{3,12}\.? \d{1,2},? \d{4}([ ,]|$)/u,
  /^\p{L}{2,10}\.?, \d{1,2}\.? \p{L}{3,12}\.? \d{4}/u,
  /^\p{L}{2,10}\.?, \p{L}{3,12}\.? \d{1,2},? \d{4}/u,
  /^\d{4}年\d{1,2}月\d{1,2}日/,
];
const LONGEST_TIME = 60;

const isEpoch = (value: number): boolean =>
  Number.isInteger(value) &&
  ((value > 946_684_800 && value < 4_102_444_800) || (value > 946_684_800_000 && value < 4_102_444_800_000));

/** True for a date, with a time or without, in one of the usual notations, and for seconds or milliseconds since the epoch within this century. */
export const readsAsTime = (value: Json): boolean =>
  typeof value === 'number'
    ? isEpoch(value)
    : typeof value === 'string' &&
      value.length < LONGEST_TIME &&
      (timeNotations.some(each => each.test(value.trim())) ||
        (/^\d{10}(\d{3})?$/.test(value) && isEpoch(Number(value))));

/** True for a date with the time of day, as when something was sent. */
export const isMoment = (value: Json): boolean =>
  readsAsTime(value) && (typeof value === 'number' || /\d{1,2}:\d\d|^\d+$/.test(value as string));

const list = (text: string): Set<string> => new Set(text.split(' '));

/** Words by how plainly they say that a time is that of the submission. */
const finished = list(
  'submitted submit completed completion finished ended landed sent received lodged posted filed handed closed reported ' +
    'soumis soumission eingegangen gesendet abgesendet abgeschickt eingereicht enviado enviada envio ingezonden verzonden ' +
    'envoye envoyee envoi recu recue recibido ricevuto wyslano wysłano wysłania wyslania 送信日時 回答日時',
);
const vague = list('at on date datum fecha data uur heure hora');
const otherTimes = list(
  'started start begun begonnen updated modified changed edited birth birthday born due expires expiry deadline arrival ' +
    'preferred wanted needed visit appointment',
);

/** How much a name says that it holds the time of the submission: submitted before created, before anything else. */
export function timeRank(name: string): number {
  const all = nameWords(name);
  if (all.some(word => otherTimes.has(word))) return 0;
  if (all.some(word => finished.has(word))) return 3;
  const rest = all.filter(word => isOf(word, 'time'));
  if (rest.length === 0) return 0;
  return rest.every(word => vague.has(word)) ? 1 : 2;
}

/** True for what started, changed or is due: times that are not when a submission came. */
export const isOtherTime = (name: string): boolean => nameWords(name).some(word => otherTimes.has(word));

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
    readsAsTime(value) &&
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
