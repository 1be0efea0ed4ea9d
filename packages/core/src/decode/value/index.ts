import { isBlank, isJsonObject, parseJson, type Json, type Submission } from '../../submission';
import type { RawAnswer } from '../envelope';
import { most } from '../notes';
import { questionKey } from '../../scope';
import { chosen, withOptionLabels, withOther } from './choices';
import { filesOf } from '../files';
import { isConsent, isSingleCheck, kindOf, statedKind } from './kind';
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
    const plain = cleanText(listInText(answer.value));
    if (isBlank(plain) && answer.other === null) continue;
    const found = filesOf(answer.key, plain, stated === 'files' || (stated === null && namesFiles(answer)));
    if (found) {
      files.push(...found);
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
    const kind = kindOf({ stated, label: answer.label, key: answer.key, value, isChoice });
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

/** The value in the shape its kind has: booleans as such, choices as a list. */
function shaped(value: Json, kind: string, answer: RawAnswer): Json {
  if (kind === 'boolean')
    return isConsent(answer.label) || isSingleCheck(value) ? asBoolean(value, true) : asBoolean(value, false);
  return kind === 'choices' && !Array.isArray(value) ? [value] : value;
}

const namesFiles = ({ label, key }: RawAnswer) =>
  /\b(files?|uploads?|attachments?|photos?|pictures?|images?|documents?|scans?|videos?|cv|résumé|resume)\b/i.test(
    `${label} ${key.replace(/[_.-]/g, ' ')}`,
  );

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
  return anyTextIsYes ? true : value;
}
