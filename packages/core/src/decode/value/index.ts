import {
  isBlank,
  isJsonObject,
  parseJson,
  type Field,
  type FileRef,
  type Json,
  type Question as Asked,
  type Submission,
} from '../../submission';
import type { RawAnswer } from '../envelope';
import { most } from '../notes';
import { questionKey } from '../../scope';
import { chosen, withOptionLabels, withOther } from './choices';
import { filesOf, isUploadLink } from '../files';
import { agrees, isAgreement, isConsent, isSingleCheck, kindReader, statedKind } from './kind';
import { filesAskedIn, type FilesAsked } from './filesAsked';
import { withOwnKeys } from './ownKeys';

export { asksForFiles, type FilesAsked } from './filesAsked';

export { withOwnKeys };

export type ReadAnswers = Pick<Submission, 'fields' | 'files' | 'questions'>;

/** An answer as it was read: a field, the files that were sent, or null where nobody answered. */
export type ReadAnswer = { field: Field } | { files: FileRef[] } | null;

/** What is asked, without what was answered. */
export type Question = Omit<RawAnswer, 'value' | 'other' | 'pointer'>;

/** Reads the answers to one question: their value, and what was written beside an option such as “Other”. */
export type AnswerReader = (value: Json, other: string | null, pointer: string) => ReadAnswer;

/**
 * Stage three: what the answers mean. An unanswered question gives neither a field nor a file.
 * @param files what is known of which questions ask for files
 */
export function readAnswers(answers: RawAnswer[], files: FilesAsked = {}): ReadAnswers {
  const fields: ReadAnswers['fields'] = [];
  const sent: ReadAnswers['files'] = [];
  const asked = withOwnKeys(
    answers.slice(0, most.answers).map(answer => ({ ...answer, key: questionKey(answer.key) })),
  );
  const questions = asked.map(questionOf);
  for (const answer of asked) {
    const read = answerReader(answer, verdictOn(files, answer.key))(answer.value, answer.other, answer.pointer);
    if (read === null) continue;
    if ('files' in read) for (const file of read.files) sent.push(file);
    else fields.push(read.field);
  }
  return { fields, files: sent, questions };
}

/** Options of a question up to which they are told, and characters of the longest. */
const MOST_OPTIONS = 100;
const LONGEST_OPTION = 120;

/** A question as a submission shows it, with what can be chosen where the payload says so. */
export function questionOf({ key, label, pointer, options }: Omit<RawAnswer, 'value' | 'other' | 'stated'>): Asked {
  const stated = options === null || options.size < 2 || options.size > MOST_OPTIONS ? [] : [...options];
  if (stated.length === 0 || stated.some(([, wording]) => wording.length > LONGEST_OPTION))
    return { key, label, pointer };
  // Where they were told by their place, that identifies none of them.
  const isByPlace = stated.every(([id], at) => id === String(at));
  const all = stated.map(([id, wording]) =>
    isByPlace || id === wording ? { label: wording } : { label: wording, id },
  );
  return { key, label, pointer, options: all };
}

export const verdictOn = (files: FilesAsked, key: string): boolean | null =>
  Object.hasOwn(files, key) ? files[key]! : null;

/**
 * The reader of one question's answers. What its wording alone tells is found out when it is first needed, and once.
 * @param question with the key it has in its form
 * @param verdict whether it asks for files, where all of its answers told
 */
export function answerReader(question: Question, verdict: boolean | null = null): AnswerReader {
  const { key, label, options } = question;
  const stated = statedKind(question.stated);
  const isText = stated === 'text' || stated === 'multiline';
  const isForFiles = once(() => stated === 'files' || (stated === null && (verdict ?? namesFiles(question))));
  const tellsLink = once(() => linkWords.test(wordsAsked(question)));
  const kindFor = kindReader({
    stated,
    label,
    key,
    isStatedConsent:
      stated === 'boolean' && /consent|accept|terms|agree|gdpr|legal|einwilligung/i.test(question.stated ?? ''),
  });
  return (sent, besides, pointer) => {
    const plain = cleanText(isText ? sent : listInText(sent));
    if (isBlank(plain) && besides === null) return null;
    if (stated === null || stated === 'files' || typeof plain === 'object') {
      const isAsked = isForFiles() || (stated === null && verdict === null && isPlainlyFile(plain, tellsLink));
      const files = filesOf(key, plain, isAsked);
      if (files) return { files };
    }
    const agreed = stated === 'boolean' ? agreedIn(plain) : null;
    if (agreed !== null) return { field: { key, label, kind: 'boolean', value: agreed, pointer } };
    const choice = stated === 'table' || stated === 'name' || stated === 'address' ? undefined : chosen(plain);
    const own = choice ? choice.value : plain;
    const labelled = options ? withOptionLabels(own, options) : own;
    const value = withOther(labelled, choice?.other ?? besides);
    if (isBlank(value)) return null;
    const kind = kindFor(value, choice !== undefined || options !== null);
    return { field: { key, label, kind, value: shaped(value, kind, question), pointer } };
  };
}

/** Which questions ask for files, by all that the submissions of one message answer. */
export const filesAsked = (submissions: readonly (readonly RawAnswer[])[]): FilesAsked =>
  filesAskedIn(submissions, answer => {
    if (statedKind(answer.stated) !== null) return null;
    const { value } = answer;
    const key = questionKey(answer.key);
    const tellsLink = () => linkWords.test(wordsAsked(answer));
    const isFile =
      isPlainlyFile(value, tellsLink) || (namesFiles(answer) && filesOf(key, value, true) !== null)
        ? true
        : typeof value === 'object' && value !== null
          ? filesOf(key, value, false) !== null
          : null;
    return { key, value, isFile };
  });

function once<T>(find: () => T): () => T {
  let found: { value: T } | null = null;
  return () => (found ??= { value: find() }).value;
}

/** `{ accepted: true, text: '…' }`: whether it was agreed to. */
function agreedIn(value: Json): boolean | null {
  if (!isJsonObject(value)) return null;
  const marks = Object.values(value).filter(each => typeof each === 'boolean');
  return marks.length === 1 && Object.keys(value).length > 1 ? marks[0]! : null;
}

/** The value in the shape its kind has: booleans as such, choices as a list. */
function shaped(value: Json, kind: string, answer: Question): Json {
  if (kind === 'boolean')
    return isConsent(answer.label) ||
      isSingleCheck(value) ||
      isAgreement(value) ||
      statedKind(answer.stated) === 'boolean'
      ? asBoolean(value, true)
      : asBoolean(value, false);
  return kind === 'choices' && !Array.isArray(value) ? [value] : value;
}

/** Words by which questions ask for files. Common practice, no source. */
const fileWords =
  /(^|[^\p{L}])(files?|uploads?|attachments?|photos?|pictures?|images?|documents?|scans?|videos?|screenshots?|drawings?|cv|résumé|resume|portraits?|signature|recordings?|dateien?|datei|anhang|anhänge|fotos?|bild(er)?|hochladen|unterschrift|fichiers?|pièces? jointes?|téléverse\p{L}*|archivos?|adjuntos?|imagen(es)?|subir|bestand(en)?|bijlagen?|zdjęci\p{L}*|pliki?|skan\p{L}*|załącznik\p{L}*|allegat[oi])(?=$|[^\p{L}])|写真|添付|画像/iu;
/** Words by which they ask for an address that people can open. */
const linkWords =
  /(^|[^\p{L}])(links?|urls?|uri|web ?sites?|webseite|page|pages|site|web|homepage|profile|portfolio|blog|where|wo|où|dónde)(?=$|[^\p{L}])/iu;

const wordsAsked = ({ label, key }: Question) => `${label} ${key.replace(/[_.-]/g, ' ')}`;

/** True where the wording or the key says that files are asked for, and not where something is to be seen. */
const namesFiles = (question: Question) => {
  const asked = wordsAsked(question);
  return fileWords.test(asked) && !(linkWords.test(asked) && !/upload/i.test(asked));
};

/** True where nobody stated or named files, and the answer is plainly one: a place in a store of uploads. */
const isPlainlyFile = (value: Json, tellsLink: () => boolean): boolean =>
  typeof value === 'string' && ((isUploadLink(value) && !tellsLink()) || isStoredPath(value));

/** A path of several folders that ends in a file. */
const isStoredPath = (text: string): boolean =>
  text.length < 500 &&
  /^(?:[\w.-]+:)?[\w .()%@+-]*[/\\](?:[\w .()%@+-]+[/\\])+[^/\\]+\.[a-z][a-z\d]{1,4}$/iu.test(text);

/** Characters of the longest list inside a text. */
const LONGEST_LIST = 2_000_000;

const looksLikeList = (text: string) => text.startsWith('[') && text.endsWith(']');

/** Choose-many answers often come as text that holds a JSON list: `["Foam","Oil sheen"]`. */
function listInText(value: Json): Json {
  if (typeof value !== 'string' || value.length > LONGEST_LIST || !looksLikeList(value.trim())) return value;
  const list = parseJson(value);
  return Array.isArray(list) ? list : value;
}

/** Text trimmed and with `\n` line ends, at any depth; the shape stays. */
function cleanText(value: Json): Json {
  if (typeof value === 'string') return (value.includes('\r') ? value.replace(/\r\n?/g, '\n') : value).trim();
  if (Array.isArray(value)) return value.map(cleanText);
  if (isJsonObject(value))
    return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, cleanText(each)]));
  return value;
}

/** A mark as true or false. In a lone checkbox any text that is no “no” means that it was ticked. */
function asBoolean(value: Json, anyTextIsYes: boolean): Json {
  const one = Array.isArray(value) && value.length === 1 ? value[0]! : value;
  if (typeof one === 'boolean') return one;
  if (one === 1 || one === 0) return one === 1;
  if (typeof one !== 'string') return value;
  if (/^(true|yes|y|on|1|checked|accepted|agreed|ja|oui|sí|si)$/i.test(one)) return true;
  if (/^(false|no|n|off|0|unchecked|declined|nein|non)$/i.test(one)) return false;
  return anyTextIsYes ? agrees(one) : value;
}
