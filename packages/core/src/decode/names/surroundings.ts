import { isJsonObject, setOwn, type Json, type JsonObject, type Submission } from '../../submission';
import { most } from '../notes';
import { idRank, isScalar, isTime, nameWords, speaksOf, speaksOnlyOf, timeRank } from './roles';

/** Form, submission id and time from what stands around the answers; everything else there becomes meta. */
export function surroundings(around: JsonObject): Pick<Submission, 'form' | 'id' | 'submittedAt' | 'meta'> {
  const flat = Object.entries(around)
    .slice(0, most.around)
    .flatMap(([name, value]): [string, string, Json][] => {
      const opens = isJsonObject(value) && !speaksOf(name, 'form');
      const inner = opens
        ? Object.entries(value as JsonObject)
            .slice(0, most.around)
            .filter(([, each]) => isScalar(each))
        : [];
      return [
        [name, name, value],
        ...inner.map(([key, each]): [string, string, Json] => [`${name}.${key}`, key, each]),
      ];
    });
  // What stands inside an object about something else says less than what stands beside the answers.
  const weight = (rank: (name: string) => number, [path, name]: [string, string, Json]) => {
    const outer = path.slice(0, Math.max(0, path.length - name.length - 1));
    return rank(name) - (outer === '' || speaksOnlyOf(outer, 'submission') ? 0 : 1.5);
  };
  const pick = (rank: (name: string) => number, fits: (value: Json) => boolean) =>
    flat
      .filter(each => rank(each[1]) > 0 && weight(rank, each) > 0 && fits(each[2]))
      .sort((a, b) => weight(rank, b) - weight(rank, a))[0] ?? null;
  const time = pick(timeRank, isTime);
  const id = pick(idRank, value => isScalar(value) && String(value).trim() !== '');
  const { form, used } = formIn(around);
  const taken = new Set([time?.[0], id?.[0], ...used]);
  const meta: Record<string, Json> = {};
  for (const [name, value] of Object.entries(around)) if (!taken.has(name)) setOwn(meta, name, value);
  return { form, id: id ? String(id[2]) : null, submittedAt: time ? String(time[2]) : null, meta };
}

/** The form's key and name, stated flat (`form_id`, `formName`) or in an object (`form: { id, title }`). */
function formIn(around: JsonObject): { form: Submission['form']; used: string[] } {
  const own = formAmong(around);
  if (own.form) return own;
  // `meta: { form_id, form_name }`: beside other things, which stay where they are.
  for (const [name, value] of Object.entries(around).slice(0, most.around)) {
    if (!isJsonObject(value) || speaksOf(name, 'form')) continue;
    const { form } = formAmong(value);
    if (form) return { form, used: [] };
  }
  return own;
}

function formAmong(around: JsonObject): { form: Submission['form']; used: string[] } {
  const used: string[] = [];
  let key: string | null = null;
  let name: string | null = null;
  for (const [property, value] of Object.entries(around).slice(0, most.around)) {
    if (!speaksOf(property, 'form') || speaksOf(property, 'time')) continue;
    if (isJsonObject(value)) {
      for (const [inner, each] of Object.entries(value).slice(0, most.around)) {
        if (!isScalar(each)) continue;
        if (key === null && speaksOf(inner, 'id') && !speaksOf(inner, 'sender')) key = String(each);
        else if (name === null && speaksOf(inner, 'name')) name = String(each);
      }
      used.push(property);
    } else if (isScalar(value)) {
      if (speaksOf(property, 'name')) name ??= String(value);
      else if (speaksOf(property, 'id')) key ??= String(value);
      else if (nameWords(property).length === 1) {
        if (/\s|^\p{Lu}/u.test(String(value))) name ??= String(value);
        else key ??= String(value);
      } else continue;
      used.push(property);
    }
  }
  return { form: key === null && name === null ? null : { key: key ?? name!, name }, used };
}
