import { isJsonObject, setOwn, type Json, type JsonObject, type Submission } from '../../submission';
import { most } from '../notes';
import { isMoment, isOtherTime, isScalar, nameWords, readsAsTime, speaksOf, speaksOnlyOf, timeRank } from './roles';

/** Something that stands around the answers: its name with those above it, the nearest last, and how far it is. */
interface Fact {
  name: string;
  /** The names above it that were not on the way to the answers. */
  above: string[];
  value: string | number;
  /** The key of `around` it stands in. */
  root: string;
}

const MOST_FACTS = 2000;
const DEEPEST_FACT = 6;

/** `entry.id` as what it stands for: the identifier of the entry. */
function undotted(around: JsonObject): JsonObject {
  if (!Object.keys(around).some(name => /^[^.\s]+(\.[^.\s]+)+$/.test(name))) return around;
  const nested: JsonObject = {};
  for (const [name, value] of Object.entries(around)) {
    const dot = name.indexOf('.');
    const isDotted = dot > 0 && dot < name.length - 1 && !/\s/.test(name);
    const outer = isDotted ? name.slice(0, dot) : name;
    const known = Object.hasOwn(nested, outer) ? nested[outer] : undefined;
    if (isDotted && (known === undefined || isJsonObject(known)))
      setOwn(nested, outer, { ...(known ?? {}), [name.slice(dot + 1)]: value });
    else setOwn(nested, name, value);
  }
  return nested;
}

function factsIn(around: JsonObject): Fact[] {
  const found: Fact[] = [];
  const add = (value: Json, name: string, above: string[], root: string): void => {
    if (found.length >= MOST_FACTS) return;
    if (isScalar(value) && String(value).trim() !== '') found.push({ name, above, value, root });
    else if (isJsonObject(value) && above.length < DEEPEST_FACT)
      for (const inner of Object.keys(value).slice(0, most.around)) add(value[inner]!, inner, [...above, name], root);
  };
  for (const name of Object.keys(around).slice(0, most.around)) add(around[name]!, name, [], name);
  return found;
}

/** Things that carry a submission, or are told of beside one, and have identifiers and times of their own. */
const carriers = new Set(
  (
    'event events evt message messages msg request webhook hook delivery notice notification notifications export job ' +
    'page paging seq sequence nonce attempt lease slot trace correlation batch offset'
  ).split(' '),
);
const others = new Set(
  (
    'user account workspace team device visitor session respondent client browser owner organisation organization tenant ' +
    'project campaign template version network parent source agent channel locale referrer previous next'
  ).split(' '),
);

const has = (names: string[], set: Set<string>): boolean =>
  names.some(name => nameWords(name).some(word => set.has(word)));

const isOfForm = (name: string): boolean => speaksOf(name, 'form') && !speaksOf(name, 'submission');

/** Words that are identifiers of nothing in particular; `code` and `key` are as often of something else. */
const weakIds = new Set(['code', 'key', 'slug', 'token', 'handle', 'hash', 'serial']);

/** How much a fact identifies the submission; 0 for not at all. */
function idWorth({ name, above, value }: Fact): number {
  const text = String(value).trim();
  if (text.length > 80 || /\s.*\s|[?!]|^https?:|@/.test(text) || (readsAsTime(value) && !Number.isInteger(value)))
    return 0;
  const words = nameWords(name);
  const last = words.at(-1) ?? '';
  const before = words.slice(0, -1);
  const path = [...above, name];
  const formAbove = above.some(isOfForm);
  if (formAbove || isOfForm(name)) return 0;
  if (has(path, others)) return 0;
  let worth = 0;
  if (speaksOf(last, 'id') || /^[a-z]{1,2}id$/.test(last)) {
    worth = weakIds.has(last) ? 1.2 : 2;
    if (/^(id|uid|uuid|guid)$/.test(last)) worth += 0.4;
    if (before.length > 0)
      worth += before.every(word => speaksOf(word, 'submission') || speaksOf(word, 'id')) ? 1.5 : -1.6;
    else if (above.length > 0)
      worth += speaksOnlyOf(above.at(-1)!, 'submission', 'sender') || above.at(-1) === 'info' ? 0.6 : -0.6;
  } else if (words.every(word => speaksOf(word, 'submission')) && /\d/.test(text) && !/\s/.test(text)) worth = 2.2;
  if (worth <= 0) return 0;
  if (has(path, carriers))
    worth -= speaksOnlyOf(name, 'submission', 'id') && before.length > 0 && !has([name], carriers) ? 0.3 : 1.7;
  return worth;
}

/** How much a fact tells when the submission was sent; 0 for not at all. */
function timeWorth({ name, above, value }: Fact): number {
  if (!readsAsTime(value) || isOtherTime(name)) return 0;
  const path = [...above, name];
  if (has(path, others) || nameWords(name).some(word => /^(export|exported|made|generated|printed)$/.test(word)))
    return 0;
  if (above.some(isOfForm)) return 0;
  const rank = timeRank(name);
  if (rank === 0 && !isMoment(value)) return 0;
  let worth = rank === 0 ? 0.6 : 1 + rank;
  if (isMoment(value)) worth += 0.3;
  if (has(path, carriers)) worth -= 1.8;
  else if (above.length > 0 && !speaksOnlyOf(above.at(-1)!, 'submission', 'sender')) worth -= 0.3;
  return worth;
}

const best = (facts: Fact[], worth: (fact: Fact) => number): Fact | null =>
  facts.reduce<[Fact | null, number]>(
    (found, fact) => {
      const own = worth(fact);
      return own > found[1] ? [fact, own] : found;
    },
    [null, 0.25],
  )[0];

/** Form, submission id and time from what stands around the answers; everything else there becomes meta. */
export function surroundings(around: JsonObject): Pick<Submission, 'form' | 'id' | 'submittedAt' | 'meta'> {
  const laid = undotted(around);
  const facts = factsIn(laid);
  const { form, used } = formIn(laid);
  const named = best(facts, idWorth);
  const isBeside = (fact: Fact) => named !== null && fact.above.join('/') === named.above.join('/');
  const time = best(facts, fact => timeWorth(fact) + (timeWorth(fact) > 0 && isBeside(fact) ? 1.2 : 0));
  const id = named ?? onlyToken(facts, time);
  const taken = new Set([time?.above.length === 0 && time.root, id?.above.length === 0 && id.root, ...used]);
  const meta: Record<string, Json> = {};
  for (const [name, value] of Object.entries(around)) if (!taken.has(name)) setOwn(meta, name, value);
  return {
    form,
    id: id ? String(id.value).trim() : null,
    submittedAt: time ? String(time.value).trim() : null,
    meta,
  };
}

/** True where it is told which submission it is and when it came, and not only of what carried it. */
export function tellsOfSubmission(around: JsonObject): boolean {
  const facts = factsIn(around).filter(({ above, name }) => !has([...above, name], carriers));
  return best(facts, idWorth) !== null && best(facts, timeWorth) !== null;
}

/** Of names that nobody knows: the only text with figures, in one word, beside the time it came. */
function onlyToken(facts: Fact[], time: Fact | null): Fact | null {
  if (!time) return null;
  const beside = facts.filter(
    fact =>
      fact !== time &&
      fact.above.join('/') === time.above.join('/') &&
      fact.above.length <= 1 &&
      /^(?=.*\d)[\p{L}\d][\p{L}\d./_-]{0,60}$/u.test(String(fact.value)) &&
      !readsAsTime(fact.value) &&
      !isOfForm(fact.name) &&
      !has([...fact.above, fact.name], others) &&
      !has([...fact.above, fact.name], carriers) &&
      !speaksOnlyOf(fact.name, 'kind', 'sender', 'time', 'name'),
  );
  return beside.length === 1 ? beside[0]! : null;
}

/** The form's key and name, stated flat (`form_id`, `formName`) or in an object (`form: { id, title }`), at any depth. */
function formIn(around: JsonObject): { form: Submission['form']; used: string[] } {
  const own = formAmong(around);
  if (own.form) return own;
  const inner = innerForm(around, 4);
  return inner ? { form: inner, used: own.used } : own;
}

/** `meta: { form_id, form_name }`: beside other things, which stay where they are. */
function innerForm(around: JsonObject, depth: number): Submission['form'] {
  for (const [name, value] of Object.entries(around).slice(0, most.around)) {
    if (!isJsonObject(value) || isOfForm(name)) continue;
    const form = formAmong(value).form ?? (depth > 0 ? innerForm(value, depth - 1) : null);
    if (form) return form;
  }
  return null;
}

/** True for a name that says no more than that it is of the form: `form`, `formTitle`, `survey_key`. */
const tellsOfForm = (name: string): boolean =>
  speaksOf(name, 'form') &&
  !speaksOf(name, 'time') &&
  speaksOnlyOf(name, 'form', 'id', 'name', 'sender', 'submission') &&
  !(speaksOf(name, 'submission') && speaksOf(name, 'id') && !isOfForm(name));

function formAmong(around: JsonObject): { form: Submission['form']; used: string[] } {
  const used: string[] = [];
  let key: string | null = null;
  let name: string | null = null;
  for (const [property, value] of Object.entries(around).slice(0, most.around)) {
    if (!tellsOfForm(property)) continue;
    if (isJsonObject(value)) {
      const told = formOf(value);
      key ??= told.key;
      name ??= told.name;
      used.push(property);
    } else if (isScalar(value) && String(value).trim() !== '') {
      const text = String(value).trim();
      const words = nameWords(property);
      if (words.length === 1) {
        if (/\s|^\p{Lu}/u.test(text)) name ??= text;
        else key ??= text;
      } else if (words.some(word => /^(id|uid|key|code|slug|ref|no|nr|number)$/.test(word))) key ??= text;
      else if (speaksOf(property, 'name')) name ??= text;
      else if (speaksOf(property, 'id')) key ??= text;
      else continue;
      used.push(property);
    }
  }
  // `form="mow" title="Mowing rota"`: what the title is of is told beside it.
  const titled = Object.entries(around).find(
    ([property, value]) => /^(title|titel|titre|titulo)$/i.test(property) && isScalar(value),
  );
  if (key !== null && name === null && titled && String(titled[1]).trim() !== '') name = String(titled[1]).trim();
  return { form: key === null && name === null ? null : { key: key ?? name!, name }, used };
}

/** What an object about a form says of it: an identifier and a name. */
export function formOf(object: JsonObject): { key: string | null; name: string | null } {
  let key: string | null = null;
  let name: string | null = null;
  for (const [inner, each] of Object.entries(object).slice(0, most.around)) {
    if (isJsonObject(each) && /^(data|attributes)$/.test(inner)) {
      const told = formOf(each);
      key ??= told.key;
      name ??= told.name;
    }
    if (!isScalar(each) || String(each).trim() === '' || readsAsTime(each)) continue;
    const text = String(each).trim();
    if (speaksOf(inner, 'id') && !speaksOf(inner, 'sender')) key ??= text;
    else if (speaksOf(inner, 'name') && !speaksOf(inner, 'sender')) name ??= text;
    else if (isOfForm(inner) && nameWords(inner).length === 1) key ??= text;
    else if (/^(value|text)$|wording|caption|heading/i.test(inner) && name === null && /\s|^\p{Lu}/u.test(text))
      name = text;
  }
  return { key, name };
}
