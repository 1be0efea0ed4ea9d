import { match } from '../match';
import { questionsUsed, rekeyed, type RouteDefinition } from '../route';
import type { FieldSchema, FormSchema } from '../schema';
import { questionKey } from '../scope';
import { plainText } from '../submission';
import { settled, type Chosen, type Move, type Rehomed } from './move';

/**
 * A route as it hangs on another form: what it draws on comes from the likeliest question there, by its key, its words, its kind and its
 * options. A question without one goes by what people call it, and is a loose end.
 * @param before what the form asked so far
 * @param after what the other one asks
 */
export function ontoForm(
  definition: RouteDefinition,
  before: FormSchema,
  after: FormSchema,
  chosen: Chosen = new Map(),
): Rehomed {
  const used = questionsUsed(definition);
  const asked = used.map(key => before.fields.find(each => questionKey(each.key) === key) ?? bareQuestion(key));
  const homes = homesFor(asked, after.fields);
  const keys = new Map<string, string>();
  const taken = new Set(after.fields.map(each => questionKey(each.key)));
  const moves = asked.map((question, at): Move => {
    const was = used[at]!;
    const now = settled(chosen, was, homes[at] ?? null);
    const key = now ?? looseKey(question.label.trim() || was, taken);
    taken.add(key);
    keys.set(was, key);
    return { what: 'question', callId: null, was, label: question.label, now };
  });
  return { definition: rekeyed(definition, keys), moves };
}

const bareQuestion = (key: string): Pick<FieldSchema, 'key' | 'label' | 'kind' | 'options'> => ({
  key,
  label: key,
  kind: 'text',
  options: [],
});

/** What a question is called that the other form does not ask: as people know it, and nothing that the other means something else by. */
function looseKey(label: string, taken: ReadonlySet<string>): string {
  let key = questionKey(label);
  for (let count = 0; taken.has(key); count++) key = questionKey(`${label}, before${count === 0 ? '' : ` ${count}`}`);
  return key;
}

/** A question by what people read: its key counts only where that is all there is. */
const called = ({ key, label }: Pick<FieldSchema, 'key' | 'label'>, at: number) => ({
  key: `q${at}`,
  label: label.trim() || key,
});

/** The likeliest question for each of some, each once: the same one, else one of the same words, else one of the same key and kind. */
function homesFor(asked: ReturnType<typeof bareQuestion>[], offered: readonly FieldSchema[]): (string | null)[] {
  const homes: (string | null)[] = asked.map(() => null);
  const free = () => offered.filter(each => !homes.includes(questionKey(each.key)));
  const open = () => asked.flatMap((question, at) => (homes[at] === null ? [{ question, at }] : []));
  const take = (isHome: (question: (typeof asked)[number], other: FieldSchema) => boolean) => {
    for (const { question, at } of open()) {
      const home = free().find(each => isHome(question, each));
      if (home) homes[at] = questionKey(home.key);
    }
  };
  take(({ key, label }, other) => other.key === key && plainText(other.label) === plainText(label));
  const [left, places] = [free(), open()];
  const proposals = match(
    left.map((each, at) => ({
      ...called(each, at),
      kind: each.kind,
      samples: each.options.map(option => option.value),
    })),
    places.map(({ question: { kind, options, ...rest } }, at) => ({
      ...called(rest, at),
      type: kind,
      ...(options.length > 0 && { options: options.map(each => each.value) }),
    })),
  );
  proposals.forEach(({ from, part }, row) => {
    // A part of an answer stands for no question.
    if (from !== null && part === undefined) homes[places[row]!.at] = questionKey(left[Number(from.slice(1))]!.key);
  });
  take(({ key, kind }, other) => other.key === key && other.kind === kind);
  return homes;
}
