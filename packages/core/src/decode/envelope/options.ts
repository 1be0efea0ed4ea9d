import { isJsonObject, type Json } from '../../submission';
import type { OptionLabels } from './reader';
import { speaksOf } from '../names';

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
