import { escapeToken, isJsonObject, labelFromKey, valueAt, type JsonObject } from '../../submission';
import { DEEPEST } from '../notes';
import type { EnvelopeReader, RawAnswer } from './reader';
import { speaksOf, speaksOnlyOf, surroundings } from './roles';

/** One object whose keys are the questions: at the top, or under a key of its own among ids and times. */
export const flat: EnvelopeReader = {
  id: 'flat',
  label: 'flat object',
  read(document, at) {
    const { answers, around, pointer } = answersObject(document, at);
    const envelope = surroundings(around);
    const raw = Object.entries(answers).map(([name, value]): RawAnswer => {
      const key = name.replace(/\[\]$/, '');
      return {
        key,
        label: labelFromKey(key),
        stated: null,
        value,
        pointer: `${pointer}/${escapeToken(name)}`,
        options: null,
      };
    });
    if (raw.length === 0) return null;
    const nested = raw.filter(each => isJsonObject(each.value)).length / raw.length;
    return {
      reader: flat.id,
      label: flat.label,
      score: 0.6 - 0.4 * nested,
      why: `${raw.length} keys at ${pointer || 'the top'} each hold an answer.`,
      answersAt: pointer,
      submissions: [{ ...envelope, answers: raw }],
    };
  },
};

/** Follows single branches down to the object that holds the answers; what it passes on the way is the envelope. */
function answersObject(document: JsonObject, at: string): { answers: JsonObject; around: JsonObject; pointer: string } {
  let answers = document;
  let pointer = at;
  const around: JsonObject = {};
  for (let depth = 0; depth < DEEPEST; depth++) {
    const branches = Object.entries(answers).filter(
      ([name, value]) => isJsonObject(value) && !speaksOf(name, 'form') && !speaksOnlyOf(name, 'sender'),
    );
    const others = Object.entries(answers).filter(([, value]) => !isJsonObject(value));
    const inner = branches.filter(([, value]) => Object.keys(value as JsonObject).length > 1);
    const othersAreEnvelope = others.every(([name]) => isEnvelopeKey(name));
    if (inner.length !== 1 || !othersAreEnvelope) break;
    const [name] = inner[0]!;
    for (const [key, value] of Object.entries(answers)) if (key !== name) around[key] = value;
    pointer = `${pointer}/${escapeToken(name)}`;
    answers = valueAt(answers, `/${escapeToken(name)}`) as JsonObject;
  }
  if (pointer !== at) return { answers, around, pointer };
  const own = Object.fromEntries(Object.entries(answers).filter(([name]) => !isEnvelopeKey(name)));
  const rest = Object.fromEntries(Object.entries(answers).filter(([name]) => isEnvelopeKey(name)));
  return { answers: own, around: rest, pointer };
}

/** `id`, `form_name`, `submittedAt`, `ip_address`: keys that name what surrounds the answers. */
function isEnvelopeKey(name: string): boolean {
  if (/\s/.test(name.trim())) return false;
  if (speaksOf(name, 'form')) return speaksOnlyOf(name, 'form', 'id', 'name', 'sender');
  if (/^(submi|creat|receiv|complet|finish)\w*([_-]?(at|on|time|date))?$/i.test(name)) return true;
  if (/^(id|uuid|guid|ip|ip[_-]?address|user[_-]?agent|referr?er|remote[_-]?(addr|ip))$/i.test(name)) return true;
  return speaksOf(name, 'submission') && speaksOnlyOf(name, 'submission', 'id', 'time', 'name');
}
