import type { Json, JsonObject } from '@grammata/core/submission';
import { entriesOf, jsonOf, kindOf, textOf, type Answer, type Draw, type Drawn, type Half } from './draw';

/** One way in which builders put a submission into JSON. */
export interface Shape {
  id: string;
  half: Half;
  /** True where the payload gives each question an identifier. */
  isKeyed: boolean;
  /** True where it words the questions; otherwise the key is all that is known. */
  isWorded: boolean;
  /** True where answers stand beside what surrounds them, so that only names tell which is which. */
  isBeside?: boolean;
  /** What stands at the place of one submission. */
  one(draw: Draw, submission: Drawn): JsonObject;
  /** What all submissions of a form share, beside them. */
  shared?(draw: Draw): JsonObject;
}

const formOf = ({ names, form }: Draw): JsonObject => ({
  [names.form]: { [names.formKey]: form.key, [names.formName]: form.name },
});
const head = (draw: Draw, { id, time }: Drawn): JsonObject => ({ [draw.names.id]: id, [draw.names.time]: time });
const items = ({ names }: Draw, answers: Answer[], parts: { key?: boolean; kind?: boolean }): Json[] =>
  answers.map(each => ({
    ...(parts.key && { [names.key]: each.asked.key }),
    [names.label]: each.asked.label,
    ...(parts.kind && { [names.kind]: kindOf(each.asked) }),
    [names.value]: jsonOf(each),
  }));

/** Options by identifiers that say nothing: `o1`, `o2`. */
const optionId = ({ asked }: Answer, value: string): string => `o${asked.answers.indexOf(value) + 1}`;
const byOption = (answer: Answer): Json => {
  const { asked, value } = answer;
  if (value === null || (asked.sort !== 'choice' && asked.sort !== 'choices')) return jsonOf(answer);
  return Array.isArray(value) ? value.map(each => optionId(answer, each)) : optionId(answer, value);
};
const definitions = ({ names, submissions }: Draw, withOptions: boolean): JsonObject[] =>
  submissions[0]!.answers.map(({ asked }) => ({
    [names.key]: asked.key,
    [names.label]: asked.label,
    [names.kind]: kindOf(asked),
    ...(withOptions &&
      (asked.sort === 'choice' || asked.sort === 'choices') && {
        [names.options]: asked.answers.map((label, index) => ({ id: `o${index + 1}`, [names.label]: label })),
      }),
  }));

const halves = <T>(all: T[]): [T[], T[]] => [
  all.slice(0, Math.ceil(all.length / 2)),
  all.slice(Math.ceil(all.length / 2)),
];

export const shapes: Shape[] = [
  {
    id: 'keys beside',
    isBeside: true,
    half: 'fitted',
    isKeyed: true,
    isWorded: false,
    one: (draw, each) => ({ ...head(draw, each), ...formOf(draw), ...entriesOf(each.answers, asked => asked.key) }),
  },
  {
    id: 'keys inside',
    half: 'fitted',
    isKeyed: true,
    isWorded: false,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      [draw.names.answers]: entriesOf(each.answers, asked => asked.key),
    }),
  },
  {
    id: 'wordings inside',
    half: 'fitted',
    isKeyed: false,
    isWorded: true,
    one: (draw, each) => ({
      ...formOf(draw),
      ...head(draw, each),
      [draw.names.answers]: entriesOf(each.answers, asked => asked.label),
    }),
  },
  {
    id: 'wordings in an object of their own, the rest in another',
    half: 'held',
    isKeyed: false,
    isWorded: true,
    one: (draw, each) => ({
      entry: { ...head(draw, each), ...formOf(draw) },
      [draw.names.answers]: entriesOf(each.answers, asked => asked.label),
    }),
  },
  {
    id: 'labelled list',
    half: 'fitted',
    isKeyed: true,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      [draw.names.answers]: items(draw, each.answers, { key: true, kind: true }),
    }),
  },
  {
    id: 'labelled list without keys',
    half: 'held',
    isKeyed: false,
    isWorded: true,
    one: (draw, each) => ({
      ...formOf(draw),
      ...head(draw, each),
      [draw.names.answers]: items(draw, each.answers, {}),
    }),
  },
  {
    id: 'dictionary by key',
    half: 'fitted',
    isKeyed: true,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      [draw.names.answers]: Object.fromEntries(
        each.answers.map(answer => [
          answer.asked.key,
          { [draw.names.label]: answer.asked.label, [draw.names.value]: jsonOf(answer) },
        ]),
      ),
    }),
  },
  {
    id: 'dictionary by wording',
    half: 'held',
    isKeyed: false,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      [draw.names.answers]: Object.fromEntries(
        each.answers.map(answer => [
          answer.asked.label,
          { [draw.names.kind]: kindOf(answer.asked), [draw.names.value]: jsonOf(answer) },
        ]),
      ),
    }),
  },
  {
    id: 'definitions with options before a map',
    half: 'fitted',
    isKeyed: true,
    isWorded: true,
    shared: draw => ({
      [draw.names.form]: {
        [draw.names.formKey]: draw.form.key,
        [draw.names.formName]: draw.form.name,
        questions: definitions(draw, true),
      },
    }),
    one: (draw, each) => ({
      ...head(draw, each),
      [draw.names.answers]: Object.fromEntries(each.answers.map(answer => [answer.asked.key, byOption(answer)])),
    }),
  },
  {
    id: 'list by key, definitions as a map after',
    half: 'held',
    isKeyed: true,
    isWorded: true,
    shared: draw => ({
      ...formOf(draw),
      definitions: Object.fromEntries(
        definitions(draw, false).map(({ [draw.names.key]: key, ...rest }) => [String(key), rest]),
      ),
    }),
    one: (draw, each) => ({
      ...head(draw, each),
      [draw.names.answers]: each.answers.map(answer => ({
        [draw.names.key]: answer.asked.key,
        [draw.names.value]: jsonOf(answer),
      })),
    }),
  },
  {
    id: 'map of wordings',
    half: 'fitted',
    isKeyed: true,
    isWorded: true,
    shared: draw => ({
      ...formOf(draw),
      labels: Object.fromEntries(draw.submissions[0]!.answers.map(({ asked }) => [asked.key, asked.label])),
    }),
    one: (draw, each) => ({ ...head(draw, each), [draw.names.answers]: entriesOf(each.answers, asked => asked.key) }),
  },
  {
    id: 'pairs',
    half: 'fitted',
    isKeyed: false,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      [draw.names.answers]: each.answers.map(answer => [answer.asked.label, jsonOf(answer)]),
    }),
  },
  {
    id: 'lists side by side',
    half: 'held',
    isKeyed: false,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      questions: each.answers.map(({ asked }) => asked.label),
      answers: each.answers.map(jsonOf),
    }),
  },
  {
    id: 'pages of labelled answers',
    half: 'held',
    isKeyed: true,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      pages: halves(each.answers).map((page, index) => ({
        no: index + 1,
        items: items(draw, page, { key: true, kind: false }),
      })),
    }),
  },
  {
    id: 'sections of keys',
    isBeside: true,
    half: 'fitted',
    isKeyed: true,
    isWorded: false,
    one: (draw, each) => {
      const [one, two] = halves(each.answers);
      return {
        ...head(draw, each),
        ...formOf(draw),
        about: entriesOf(one, asked => asked.key),
        more: entriesOf(two, asked => asked.key),
      };
    },
  },
  {
    id: 'the member varies',
    half: 'held',
    isKeyed: true,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      [draw.names.answers]: each.answers.map(answer => ({
        [draw.names.key]: answer.asked.key,
        [draw.names.label]: answer.asked.label,
        [draw.names.kind]: kindOf(answer.asked),
        [kindOf(answer.asked)]: jsonOf(answer),
      })),
    }),
  },
  {
    id: 'before and after a change',
    half: 'held',
    isKeyed: true,
    isWorded: false,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      before: entriesOf(
        each.answers.map(answer => ({ ...answer, value: answer.asked.sort === 'text' ? 'Earlier' : answer.value })),
        asked => asked.key,
      ),
      after: entriesOf(each.answers, asked => asked.key),
    }),
  },
  {
    id: 'as tidy text and as a list',
    half: 'fitted',
    isKeyed: true,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      summary: each.answers.map(answer => `${answer.asked.label}: ${textOf(answer)}`).join('\n'),
      [draw.names.answers]: items(draw, each.answers, { key: true }),
    }),
  },
  {
    id: 'a question in an object of its own',
    half: 'unread',
    isKeyed: true,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      [draw.names.answers]: each.answers.map(answer => ({
        question: { [draw.names.key]: answer.asked.key, [draw.names.label]: answer.asked.label },
        [draw.names.value]: jsonOf(answer),
      })),
    }),
  },
  {
    id: 'sections with titles, in a list',
    half: 'unread',
    isKeyed: true,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      sections: halves(each.answers).map((part, index) => ({
        title: `Part ${index + 1}`,
        [draw.names.answers]: items(draw, part, { key: true, kind: true }),
      })),
    }),
  },
  {
    id: 'columns and rows',
    half: 'unread',
    isKeyed: false,
    isWorded: true,
    shared: draw => ({ ...formOf(draw), columns: draw.submissions[0]!.answers.map(({ asked }) => asked.label) }),
    one: (draw, each) => ({ ...head(draw, each), cells: each.answers.map(jsonOf) }),
  },
  {
    id: 'places of options',
    half: 'unread',
    isKeyed: true,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      [draw.names.answers]: each.answers.map(answer => ({
        [draw.names.key]: answer.asked.key,
        [draw.names.label]: answer.asked.label,
        [draw.names.kind]: kindOf(answer.asked),
        ...((answer.asked.sort === 'choice' || answer.asked.sort === 'choices') && {
          choices: answer.asked.answers.map((label, index) => ({ value: `c${index}`, label })),
        }),
        answer: chosenBy(answer, 'c'),
      })),
    }),
  },
  {
    id: 'definitions in a text',
    half: 'unread',
    isKeyed: true,
    isWorded: true,
    shared: draw => ({ ...formOf(draw), schema: JSON.stringify(definitions(draw, false)) }),
    one: (draw, each) => ({ ...head(draw, each), [draw.names.answers]: entriesOf(each.answers, asked => asked.key) }),
  },
  {
    id: 'keys below the submission, which is below the event',
    half: 'unread',
    isKeyed: true,
    isWorded: false,
    one: (draw, each) => ({
      response: {
        ...head(draw, each),
        ...formOf(draw),
        [draw.names.answers]: entriesOf(each.answers, asked => asked.key),
      },
    }),
  },
  {
    id: 'wordings, then once more as HTML',
    half: 'unread',
    isKeyed: false,
    isWorded: true,
    one: (draw, each) => ({
      ...head(draw, each),
      ...formOf(draw),
      [draw.names.answers]: entriesOf(each.answers, asked => asked.label),
      html: `<ul>${each.answers.map(answer => `<li>${answer.asked.label} ${textOf(answer)}</li>`).join('')}</ul>`,
    }),
  },
];

function chosenBy(answer: Answer, prefix: string): Json {
  const { asked, value } = answer;
  if (value === null || (asked.sort !== 'choice' && asked.sort !== 'choices')) return jsonOf(answer);
  const idOf = (each: string) => `${prefix}${asked.answers.indexOf(each)}`;
  return Array.isArray(value) ? value.map(idOf) : idOf(value);
}
