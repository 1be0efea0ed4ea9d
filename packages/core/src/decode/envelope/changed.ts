import { isJsonObject, setOwn, type Json, type JsonObject } from '../../submission';
import { DEEPEST } from '../notes';
import { shapeOf } from './collections';
import { keepOpened } from './expand';
import { changeAmong } from './properties';

/** A submission that tells what was before a change and what is after it, without what was before. */
export function withoutOld(value: Json, depth = DEEPEST): Json {
  if (depth === 0 || typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) {
    const all = value.map(each => withoutOld(each, depth - 1));
    return all.some((each, index) => each !== value[index]) ? keepOpened(value, all) : value;
  }
  const change = changeAmong(Object.keys(value));
  const isBefore =
    change &&
    !isOneOfMany(value, change) &&
    isState(value[change.now]!) &&
    (isState(value[change.old]!) || value[change.old] === null);
  let changed: JsonObject | null = null;
  for (const [name, each] of Object.entries(value)) {
    if (isBefore && name === change.old) {
      changed ??= { ...value };
      delete changed[name];
      continue;
    }
    if (typeof each !== 'object' || each === null) continue;
    const inner = withoutOld(each, depth - 1);
    if (inner !== each) setOwn((changed ??= { ...value }), name, inner);
  }
  return changed ? keepOpened(value, changed) : value;
}

/** `from` and `to` among questions that are built alike are questions. */
const isOneOfMany = (value: JsonObject, { old, now }: { old: string; now: string }): boolean =>
  Object.entries(value).some(
    ([name, each]) =>
      name !== old &&
      name !== now &&
      isJsonObject(each) &&
      isJsonObject(value[now]) &&
      shapeOf(each) === shapeOf(value[now]),
  );

const isState = (value: Json): boolean =>
  (isJsonObject(value) && Object.keys(value).length > 0) || (Array.isArray(value) && value.some(isJsonObject));
