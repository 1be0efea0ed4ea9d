import { isBlank, parseJson, type Json, type Submission } from '../../submission';
import type { RawAnswer } from '../envelope';
import { filesOf } from './files';
import { kindOf } from './kind';

export type ReadAnswers = Pick<Submission, 'fields' | 'files' | 'questions'>;

/** Stage three: what the answers mean. An unanswered question gives neither a field nor a file. */
export function readAnswers(answers: RawAnswer[]): ReadAnswers {
  const fields: ReadAnswers['fields'] = [];
  const files: ReadAnswers['files'] = [];
  const questions = answers.map(({ key, label, pointer }) => ({ key, label, pointer }));
  for (const answer of answers) {
    const value = cleanText(listInText(answer.value));
    if (isBlank(value)) continue;
    const stated = kindOf(answer.stated, answer.label, '', answer.options !== null);
    const found = filesOf(answer.key, value, stated === 'files');
    if (found) {
      files.push(...found);
      continue;
    }
    const labelled = answer.options ? withOptionLabels(value, answer.options) : value;
    const kind = kindOf(answer.stated, answer.label, labelled, answer.options !== null);
    fields.push({
      key: answer.key,
      label: answer.label,
      kind,
      value:
        kind === 'boolean'
          ? asBoolean(labelled)
          : kind === 'choices' && !Array.isArray(labelled)
            ? [labelled]
            : labelled,
      pointer: answer.pointer,
    });
  }
  return { fields, files, questions };
}

/** Choose-many answers often come as text that holds a JSON list: `["Foam","Oil sheen"]`. */
function listInText(value: Json): Json {
  if (typeof value !== 'string' || !/^\s*\[[\s\S]*\]\s*$/.test(value)) return value;
  const list = parseJson(value);
  return Array.isArray(list) ? list : value;
}

/** Text trimmed and with `\n` line ends; the shape stays. */
function cleanText(value: Json): Json {
  if (typeof value === 'string') return value.replace(/\r\n?/g, '\n').trim();
  if (Array.isArray(value) && value.every(each => typeof each === 'string')) return value.map(cleanText);
  return value;
}

function withOptionLabels(value: Json, options: Map<string, string>): Json {
  if (Array.isArray(value)) return value.map(each => withOptionLabels(each, options));
  return typeof value === 'string' || typeof value === 'number' ? (options.get(String(value)) ?? value) : value;
}

function asBoolean(value: Json): Json {
  if (typeof value === 'string' && /^(true|yes|on|1|checked)$/i.test(value)) return true;
  if (typeof value === 'string' && /^(false|no|off|0|unchecked)$/i.test(value)) return false;
  if (value === 1 || value === 0) return value === 1;
  return value;
}
