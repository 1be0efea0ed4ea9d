import { isBlank, isJsonObject, parseJson, type Json, type Submission } from '../../submission';
import type { RawAnswer } from '../envelope';
import { most } from '../notes';
import { questionKey } from '../../scope';
import { chosen, withOptionLabels, withOther } from './choices';
import { filesOf, isUploadLink } from '../files';
import { agrees, isAgreement, isConsent, isSingleCheck, kindOf, statedKind } from './kind';
import { withOwnKeys } from './ownKeys';

export type ReadAnswers = Pick<Submission, 'fields' | 'files' | 'questions'>;

/** Stage three: what the answers mean. An unanswered question gives neither a field nor a file. */
export function readAnswers(answers: RawAnswer[]): ReadAnswers {
  const fields: ReadAnswers['fields'] = [];
  const files: ReadAnswers['files'] = [];
  const asked = withOwnKeys(
    answers.slice(0, most.answers).map(answer => ({ ...answer, key: questionKey(answer.key) })),
  );
  const questions = asked.map(({ key, label, pointer }) => ({ key, label, pointer }));
  for (const answer of asked) {
    const stated = statedKind(answer.stated);
    const plain = cleanText(stated === 'text' || stated === 'multiline' ? answer.value : listInText(answer.value));
    if (isBlank(plain) && answer.other === null) continue;
    const isAsked = stated === 'files' || (stated === null && (namesFiles(answer) || isPlainlyFile(plain, answer)));
    const found =
      stated === null || stated === 'files' || typeof plain === 'object' ? filesOf(answer.key, plain, isAsked) : null;
    if (found) {
      files.push(...found);
      continue;
    }
    const agreed = stated === 'boolean' ? agreedIn(plain) : null;
    if (agreed !== null) {
      fields.push({ key: answer.key, label: answer.label, kind: 'boolean', value: agreed, pointer: answer.pointer });
      continue;
    }
    const choice = stated === 'table' || stated === 'name' || stated === 'address' ? undefined : chosen(plain);
    const labelled = answer.options
      ? withOptionLabels(choice ? choice.value : plain, answer.options)
      : choice
        ? choice.value
        : plain;
    const value = withOther(labelled, choice?.other ?? answer.other);
    if (isBlank(value)) continue;
    const isChoice = choice !== undefined || answer.options !== null;
    const isStatedConsent =
      stated === 'boolean' && /consent|accept|terms|agree|gdpr|legal|einwilligung/i.test(answer.stated ?? '');
    const kind = kindOf({ stated, label: answer.label, key: answer.key, value, isChoice, isStatedConsent });
    fields.push({
      key: answer.key,
      label: answer.label,
      kind,
      value: shaped(value, kind, answer),
      pointer: answer.pointer,
    });
  }
  return { fields, files, questions };
}

/** `{ accepted: true, text: '…' }`: whether it was agreed to. */
function agreedIn(value: Json): boolean | null {
  if (!isJsonObject(value)) return null;
  const marks = Object.values(value).filter(each => typeof each === 'boolean');
  return marks.length === 1 && Object.keys(value).length > 1 ? marks[0]! : null;
}

/** The value in the shape its kind has: booleans as such, choices as a list. */
function shaped(value: Json, kind: string, answer: RawAnswer): Json {
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

/** True where the wording or the key says that files are asked for, and not where something is to be seen. */
const namesFiles = ({ label, key }: RawAnswer) => {
  const asked = `${label} ${key.replace(/[_.-]/g, ' ')}`;
  return fileWords.test(asked) && !(linkWords.test(asked) && !/upload/i.test(asked));
};

/** True where nobody stated or named files, and the answer is plainly one: a place in a store of uploads. */
const isPlainlyFile = (value: Json, { label, key }: RawAnswer): boolean =>
  typeof value === 'string' &&
  ((isUploadLink(value) && !linkWords.test(`${label} ${key.replace(/[_.-]/g, ' ')}`)) || isStoredPath(value));

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
  if (typeof value === 'string') return value.replace(/\r\n?/g, '\n').trim();
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
