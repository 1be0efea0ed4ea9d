import { isJsonObject, wordsOf, type FieldKind, type Json } from '../../submission';
import { isAddressObject, isMatrix, isNameObject, nameWords } from '../names';

/** The general words with which builders state kinds of question. Common practice, no source. */
const statedKinds: [FieldKind, RegExp][] = [
  ['email', /e_?mail|^mail$/],
  ['phone', /phone|^tel$|telephone|mobile/],
  ['url', /^(url|link|website|uri|web)/],
  ['files', /file|upload|attach|photo|image|picture|^docs?$|document|signature|media/],
  ['table', /table|matrix|grid|likert|repeat/],
  [
    'choices',
    /checkboxes|multi_?(ple)?_?(select|choice|pick)?s?$|multi_?select|select_?(many|multiple|all)|choices|picks|many|tags|ranking|check_?list/,
  ],
  [
    'boolean',
    /bool|yes_?no|consent|toggle|switch|^flag$|^check_?box$|legal|accept|terms|agree|opt_?in|gdpr|einwilligung|consentement/,
  ],
  ['choice', /choice|pick|select|radio|drop|^list|option|one_of/],
  ['number', /num|^int|decimal|float|rating|scale|score|stars|opinion|nps|slider|currency|amount|quantity|percent/],
  ['datetime', /date_?time|timestamp|^moment$/],
  ['date', /date|birth|^day$/],
  ['time', /^time/],
  ['address', /address|location/],
  ['name', /(^|_)(full_?)?name$/],
  ['multiline', /long|area|multi_?line|paragraph|memo|essay|^lines$|rich/],
  ['text', /text|short|string|line|^input|words|free/],
];

const dateTime = /^\d{4}-\d\d-\d\d[T ]\d\d:\d\d/;
const date = /^\d{4}-\d\d-\d\d$|^\d{1,2}[./]\d{1,2}[./]\d{4}$/;
const dateAndTime = /^\d{1,2}[./-]\d{1,2}[./-]\d{2,4},? \d{1,2}:\d\d/;
const time = /^\d{1,2}:\d\d(:\d\d)?( ?[ap]m)?$/i;
/** Characters of the longest address (RFC 5321 §4.5.3.1), and of the longest value that is looked at for its kind. */
const LONGEST_ADDRESS = 320;
const LONGEST_TOLD = 4000;

/** One @ between two texts without blanks, and a dot inside the second. */
function isAddress(text: string): boolean {
  const at = text.indexOf('@');
  if (at < 1 || text.length > LONGEST_ADDRESS || /\s/.test(text) || text.includes('@', at + 1)) return false;
  const dot = text.indexOf('.', at + 2);
  return dot > 0 && text.length > dot + 1;
}

const url = /^https?:\/\/\S+$/i;
const phone = /^\+?[\d\s().\-/]{7,20}$/;
const phoneWord =
  /^(phone|telephone|tel|mobile|cell|fax|telefon|handy|telefono|telefone|telefoon|mobil|movil|celular|portable|komorka)$/;

const known = new Map<string, FieldKind | null>();

/** The kind that a payload states for a question, or null. Plain text counts as stated. */
export function statedKind(stated: string | null): FieldKind | null {
  if (!stated || stated.length > LONGEST_TOLD) return null;
  const before = known.get(stated);
  if (before !== undefined) return before;
  const name = wordsOf(stated).join('_');
  const kind = statedKinds.find(([, pattern]) => pattern.test(name))?.[0] ?? null;
  if (known.size < 2000 && stated.length < 100) known.set(stated, kind);
  return kind;
}

/** Words by which people are asked to agree. Common practice, no source. */
const consentWords =
  /\b(consent|i (?:agree|accept|have read)|agrees? to|accepts?|terms|privacy|opt[ -]?in|subscribe|newsletter|may we|send me|ich (?:stimme|akzeptiere|willige|bin einverstanden|habe .{0,80} gelesen)|einverstanden|j[’']accepte|j[’']autorise|je consens|acepto|autorizo|ik ga akkoord|ik accepteer|akkoord|accetto|acconsento|wyrażam zgodę|akceptuję|zgadzam się|aceito|concordo)(?![\p{L}])/iu;

/** True when a question asks for agreement to something. */
export const isConsent = (label: string): boolean => consentWords.test(label);

/** Answers that say yes to it, with more words or without. */
const agreeing =
  /^(yes|ja|oui|sí|si|sim|tak|true|on|checked|i (?:agree|accept|consent)|agreed|accepted|ich stimme|einverstanden|j[’']accepte|acepto|akkoord|accetto|akceptuję|zgadzam)(?![\p{L}])/iu;
const refusing = /^(no|nein|non|nee|nie|não|false|off|declined|refused|i do not)(?![\p{L}])/iu;

/** True for a text that agrees or refuses in its first words. */
export const isAgreement = (value: Json): boolean =>
  typeof value === 'string' && value.length < 200 && (agreeing.test(value) || refusing.test(value));

/** What a text that agrees or refuses says. */
export const agrees = (text: string): boolean => !refusing.test(text);

/** True for what a lone ticked checkbox sends. */
export const isSingleCheck = (value: Json): boolean => typeof value === 'string' && /^(on|checked)$/i.test(value);

const isYesNo = (value: Json) =>
  typeof value === 'string' && /^(yes|no|true|false|on|off|1|0|y|n|accepted|checked)$/i.test(value);

interface Asked {
  stated: FieldKind | null;
  label: string;
  key: string;
  /** True when the payload states that it is asked to agree. */
  isStatedConsent?: boolean;
}

/** The kind of an answer; `isChoice` where it came as chosen options. */
export type KindReader = (value: Json, isChoice: boolean) => FieldKind;

/** Tells the kind of answers to one question from what the payload states, its wording, and the value, in that order of trust. */
export function kindReader(asked: Asked): KindReader {
  const { stated, label, isStatedConsent = false } = asked;
  let consent: boolean | null = null;
  const asksConsent = () => (consent ??= isConsent(label));
  const byWordingAndValue = wordingReader(asked);
  return (value, isChoice) => {
    if (typeof value === 'boolean') return 'boolean';
    if (Array.isArray(value)) {
      if (stated === 'boolean' && value.length === 1) return 'boolean';
      if ((stated === 'name' || stated === 'address') && !value.some(Array.isArray)) return stated;
      return value.some(isJsonObject) || value.some(Array.isArray) ? 'table' : 'choices';
    }
    if (isJsonObject(value)) {
      if (stated === 'name' || stated === 'address' || stated === 'table') return stated;
      return isNameObject(value)
        ? 'name'
        : isAddressObject(value)
          ? 'address'
          : Object.values(value).every(isJsonObject) || isMatrix(value)
            ? 'table'
            : 'json';
    }
    if (typeof value === 'number')
      return stated && !['text', 'multiline', 'choice', 'choices'].includes(stated)
        ? stated
        : isChoice
          ? 'choice'
          : 'number';
    if (stated === 'boolean') return isYesNo(value) || asksConsent() || isStatedConsent ? 'boolean' : 'choice';
    if (stated && stated !== 'text') return stated;
    if (isChoice) return 'choice';
    if (isSingleCheck(value) || (asksConsent() && (isYesNo(value) || isAgreement(value)))) return 'boolean';
    return byWordingAndValue(String(value));
  };
}

/** True for what a person, an address or the like is called by one word or a few. */
const nameWord = /^(name|nombre|naam|nome|nazwisko|名前|お名前|氏名)$/;
const thingsWithNames = new Set(
  'site company boat file product school organisation organization team place user'.split(' '),
);

/** Tells the kind of a text from its own form, then from the wording. */
function wordingReader({ label, key, stated }: Asked): (text: string) => FieldKind {
  const isStatedText = stated === 'text';
  let found: { asksPhone: boolean; asksAddress: boolean; isOfAddress: boolean; asksName: boolean } | null = null;
  const worded = () => (found ??= wordingOf(label, key));
  return text => {
    if (isAddress(text)) return 'email';
    const isLined = text.includes('\n');
    if (text.length > LONGEST_TOLD) return isLined ? 'multiline' : url.test(text) ? 'url' : 'text';
    if (url.test(text)) return 'url';
    if (isLined) return worded().isOfAddress ? 'address' : 'multiline';
    if (!isStatedText) {
      if (dateTime.test(text) || dateAndTime.test(text)) return 'datetime';
      if (date.test(text)) return 'date';
      if (time.test(text)) return 'time';
    }
    const { asksPhone, asksAddress, asksName } = worded();
    if (asksPhone && phone.test(text)) return 'phone';
    return asksAddress ? 'address' : asksName ? 'name' : 'text';
  };
}

function wordingOf(label: string, key: string) {
  const own = nameWords(label);
  const words = [...own, ...nameWords(key)];
  const isOfAddress = words.includes('address');
  return {
    asksPhone: words.some(word => phoneWord.test(word)),
    isOfAddress,
    asksAddress: isOfAddress && !words.includes('email') && !words.includes('mail'),
    asksName: nameWord.test(own.at(-1) ?? '') && own.length <= 3 && !own.some(word => thingsWithNames.has(word)),
  };
}
