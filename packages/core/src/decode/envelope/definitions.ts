import { escapeToken, isJsonObject, type Json, type JsonObject } from '../../submission';
import { DEEPEST, most } from '../notes';
import { optionLabels } from './options';
import { isObjectList } from './properties';
import type { EnvelopeReading, OptionLabels, RawAnswer } from './reader';
import { speaksOf } from '../names';

/** What a payload says of a question apart from its answer. */
interface Definition {
  label: string;
  stated: string | null;
  options: OptionLabels | null;
}

type Definitions = Map<string, Definition>;

interface Defined {
  /** Where it stands in the document. */
  pointer: string;
  definitions: Definitions;
}

/** Collections of definitions that are held against the answers, the largest. */
const MOST_DEFINED = 30;

const scalar = (object: JsonObject, role: 'id' | 'wording' | 'kind', not: string[] = []): string | undefined => {
  const names = Object.keys(object).filter(
    name => !not.includes(name) && ['string', 'number'].includes(typeof object[name]),
  );
  const named = names.filter(name => speaksOf(name, role));
  if (role !== 'wording') return named[0];
  // A text of several words is a wording whatever it is called.
  const wordy = (all: string[]) => all.find(name => /\S\s+\S/.test(String(object[name])));
  return wordy(named) ?? named[0] ?? wordy(names);
};

function definitionOf(object: JsonObject, outerKey: string | null): [string, Definition] | null {
  const id = outerKey === null ? scalar(object, 'id') : undefined;
  const wording = scalar(object, 'wording', id ? [id] : []);
  if (!wording || (outerKey === null && !id)) return null;
  const kind = scalar(object, 'kind', [wording, ...(id ? [id] : [])]);
  const options = Object.values(object)
    .map(value => (Array.isArray(value) ? optionLabels(value) : null))
    .find(each => each !== null);
  const inner = Object.values(object)
    .filter(isJsonObject)
    .flatMap(value => Object.values(value))
    .map(value => (Array.isArray(value) ? optionLabels(value) : null))
    .find(each => each !== null);
  return [
    outerKey ?? String(object[id!]),
    {
      label: String(object[wording]).trim(),
      stated: kind ? String(object[kind]) : null,
      options: options ?? inner ?? null,
    },
  ];
}

/** Every collection of question definitions in a document, with the place where it stands. */
export function definitionsIn(value: Json, at = '', depth = DEEPEST, found: Defined[] = []): Defined[] {
  if (depth === 0 || at.length > most.pointer || typeof value !== 'object' || value === null) return found;
  const own = ownDefinitions(value);
  if (own) found.push({ pointer: at, definitions: own });
  for (const key of Object.keys(value)) {
    const each = (value as JsonObject)[key]!;
    if (typeof each === 'object') definitionsIn(each, `${at}/${escapeToken(key)}`, depth - 1, found);
  }
  return found;
}

function ownDefinitions(value: Json[] | JsonObject): Definitions | null {
  if (isObjectList(value as Json)) {
    const found = (value as JsonObject[]).map(each => definitionOf(each, null));
    return found.every(each => each !== null) ? new Map(found) : null;
  }
  if (!isJsonObject(value as Json)) return null;
  const entries = Object.entries(value as JsonObject);
  if (entries.length < 2) return null;
  if (entries.every(([, each]) => isJsonObject(each))) {
    const found = entries.map(([key, each]) => definitionOf(each as JsonObject, key));
    return found.every(each => each !== null) ? new Map(found) : null;
  }
  const texts = entries.filter(([key, each]) => typeof each === 'string' && each !== key && /\s|^\p{Lu}/u.test(each));
  return texts.length === entries.length
    ? new Map(entries.map(([key, each]) => [key, { label: String(each).trim(), stated: null, options: null }]))
    : null;
}

/** The reading with what the payload defines apart from its answers; null when it defines nothing that fits. */
export function withDefinitions(reading: EnvelopeReading, found: Defined[]): EnvelopeReading | null {
  if (found.length === 0) return null;
  const all =
    found.length > MOST_DEFINED
      ? [...found].sort((a, b) => b.definitions.size - a.definitions.size).slice(0, MOST_DEFINED)
      : found;
  const places = reading.submissions.flatMap(each => each.answers.map(answer => answer.pointer));
  const keys = reading.submissions.flatMap(each => each.answers.map(answer => answer.key));
  if (keys.length === 0) return null;
  const fitting = all
    .filter(({ pointer }) => pointer !== reading.answersAt && !places.some(place => place.startsWith(`${pointer}/`)))
    .map(({ pointer, definitions }) => ({
      pointer,
      definitions,
      share: keys.filter(key => definitions.has(key)).length / keys.length,
    }))
    .filter(({ share }) => share >= 0.5);
  if (fitting.length === 0) return null;
  const merged: Definitions = new Map(fitting.sort((a, b) => a.share - b.share).flatMap(each => [...each.definitions]));
  const told = (answer: RawAnswer): RawAnswer => {
    const definition = merged.get(answer.key);
    return definition
      ? {
          ...answer,
          label: definition.label,
          stated: definition.stated ?? answer.stated,
          options: definition.options ?? answer.options,
        }
      : answer;
  };
  const definedAt = fitting.map(each => each.pointer);
  return {
    ...reading,
    label: `${reading.label}, defined apart`,
    score: Math.min(0.98, Math.max(reading.score, 0.7) + 0.2),
    why: `${reading.why} What they ask is defined at ${definedAt[definedAt.length - 1] || 'the top'}.`,
    submissions: reading.submissions.map(each => ({
      ...each,
      answers: each.answers
        .filter(answer => !definedAt.some(place => answer.pointer === place || answer.pointer.startsWith(`${place}/`)))
        .map(told),
    })),
  };
}
