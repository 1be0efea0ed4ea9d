import { isJsonObject, type Json, type JsonObject } from '../../submission';
import type { OptionLabels } from './reader';
import { speaksOf } from '../names';

const isMark = (value: Json | undefined): boolean =>
  typeof value === 'boolean' || (typeof value === 'string' && /^(true|false|selected|checked|yes|no)$/i.test(value));

/** The labels of the options that bear a mark, of a list of all options, with what was written beside them; null for any other. */
export function markedIn(list: Json | undefined): Json[] | null {
  const all = Array.isArray(list) ? list : isJsonObject(list) ? [list] : [];
  if (all.length === 0 || !all.every(isJsonObject)) return null;
  const marks = [...new Set(all.flatMap(each => Object.keys(each)))].filter(
    name =>
      all.some(each => each[name] !== undefined && isMark(each[name])) &&
      all.every(each => each[name] === undefined || isMark(each[name])) &&
      /^(is_?)?(selected|chosen|checked|marked|ticked|picked|on|active|value|answer|gewaehlt|coche|elegido)$/i.test(
        name,
      ),
  );
  const [mark] = marks;
  if (mark === undefined || marks.length > 1) return null;
  return all
    .filter(
      each =>
        each[mark] === true || (typeof each[mark] === 'string' && /^(true|selected|checked|yes)$/i.test(each[mark])),
    )
    .map(each => {
      const names = Object.keys(each).filter(name => name !== mark && ['string', 'number'].includes(typeof each[name]));
      const written = names.find(name => /^(written|other|text_?value|free|specif|comment)/i.test(name));
      const label =
        names.find(name => name !== written && speaksOf(name, 'wording')) ?? names.find(name => name !== written);
      return (written !== undefined && each[written]) || (label === undefined ? null : each[label]!);
    });
}

/** `[{ id, label }]` or `{ id: label }` as a map from identifier to label; null when it is none of these. */
export function optionLabels(list: Json | undefined): OptionLabels | null {
  if (isJsonObject(list)) {
    const entries = Object.entries(list);
    const isMap = entries.length > 0 && entries.every(([, label]) => typeof label === 'string');
    return isMap ? new Map(entries as [string, string][]) : null;
  }
  if (!Array.isArray(list) || list.length === 0) return null;
  const labels: OptionLabels = new Map();
  for (const option of list) {
    if (!isJsonObject(option)) return null;
    const names = Object.keys(option).filter(name => ['string', 'number'].includes(typeof option[name]));
    const label =
      names.find(name => speaksOf(name, 'wording')) ?? names.find(name => /\s|\p{Lu}/u.test(String(option[name])));
    const id =
      names.find(name => name !== label && (speaksOf(name, 'id') || speaksOf(name, 'answer'))) ??
      names.find(name => name !== label);
    if (!label || !id) return null;
    labels.set(String(option[id]), String(option[label]));
  }
  return labels;
}

/** Members that hold the options of a question. */
export const isOptionsNamed = (name: string): boolean =>
  /(options?|choices|alternatives|picklist|allowed|auswahl|keuzes|opciones|choix|optionen|answers?|list|values|enum|items)([_-]?(list|labels|available))?$/i.test(
    name,
  );

const texts = (value: Json | undefined): string[] | null =>
  Array.isArray(value) && value.length > 0 && value.every(each => typeof each === 'string' || typeof each === 'number')
    ? value.map(String)
    : null;

/** Labels in their order, by their places from 0 on: for answers that tell a place alone. */
const byPlace = (labels: string[]): OptionLabels => new Map(labels.map((label, index) => [String(index), label]));

/**
 * The options that an object says of its question: a list of objects or a map from identifier to label, two lists side by side,
 * or labels alone, which an answer may tell by their place.
 * @param except a member that is no options: the answer itself
 */
export function optionsOf(object: JsonObject, except: string | null = null): OptionLabels | null {
  const names = Object.keys(object).filter(name => name !== except);
  for (const name of names) {
    const value = object[name]!;
    if (Array.isArray(value) && value.length > 0 && value.every(isJsonObject)) {
      const found = optionLabels(value);
      if (found && found.size === value.length) return found;
    } else if (isJsonObject(value) && isOptionsNamed(name)) {
      const found = optionLabels(value) ?? optionsOf(value);
      if (found) return found;
    }
  }
  const lists = names.flatMap(name => {
    const all = texts(object[name]);
    return all && all.length > 1 && new Set(all).size === all.length ? [{ name, all }] : [];
  });
  for (const labels of lists)
    for (const ids of lists)
      if (
        labels !== ids &&
        labels.all.length === ids.all.length &&
        /label|text|name|title|wording/i.test(labels.name) &&
        /id|key|value|code/i.test(ids.name)
      )
        return new Map(ids.all.map((id, index) => [id, labels.all[index]!]));
  const alone = lists.find(each => isOptionsNamed(each.name)) ?? lists.find(each => speaksOf(each.name, 'wording'));
  return alone ? byPlace(alone.all) : null;
}
