import { formChanges, readBoth, type DriftRequest, type FormChange } from '@grammata/core/drift';
import { Chance, draw, type Answer, type Draw, type Drawn, type Half } from '../reading/draw';
import { media, type Rendered } from '../reading/media';
import type { Asked } from '../reading/words';

/** Messages before and after, with what was changed between them; nothing for a clean case. */
export interface FormCase {
  how: string;
  before: DriftRequest[];
  after: DriftRequest[];
  /** What was done to the form: how it is told may name the question by its key before, or by what stands for one. */
  wanted: { change: FormChange['change']; question: string | null }[];
}

/** A question of a form that is drawn, with how people answer it. */
interface Question {
  asked: Asked;
  /** How often it is answered, 0 to 1. */
  rate: number;
  answer(chance: Chance): string | string[];
}

const first = ['Ada', 'Wen', 'Ivo', 'Zoë', 'Mira', 'Tarek', 'Lio', 'Noor', 'Pia', 'Oskar', 'June', 'Emil'];
const last = ['Reed', 'Brook', 'Marsh', 'Ford', 'Weir', 'Alder', 'Sedge', 'Rush', 'Heron', 'Teal'];
const things = [
  'the old mill',
  'a fallen willow',
  'two herons',
  'the ford',
  'a broken gate',
  'clear water',
  'some foam',
  'the north bank',
];
const two = (number: number) => String(number).padStart(2, '0');

/** How answers of each sort come about: many different ones, as people write them. */
function answering({ sort, answers }: Asked, chance: Chance): Question['answer'] {
  const weights = answers.map((_, at) =>
    at === 0 ? 3 : at === answers.length - 1 && answers.length > 3 && chance.is(0.3) ? 0.25 : 1,
  );
  const total = weights.reduce((sum, each) => sum + each, 0);
  const option = (of: Chance) => {
    let left = of.next() * total;
    for (const [at, weight] of weights.entries()) if ((left -= weight) <= 0) return answers[at]!;
    return answers[0]!;
  };
  switch (sort) {
    case 'choice':
    case 'boolean':
      return option;
    case 'choices':
      return of => {
        const picked = answers.filter(() => of.is(0.4));
        return picked.length > 0 ? picked : [option(of)];
      };
    case 'number':
      return of => (of.is(0.5) ? `${1 + of.below(60)}.${1 + of.below(9)}` : String(1 + of.below(90)));
    case 'email':
      return of => `${of.of(first).toLowerCase().replace('ë', 'e')}.${of.below(900)}@example.org`;
    case 'date':
      return of => `2026-${two(1 + of.below(12))}-${two(1 + of.below(28))}`;
    case 'long':
      return of => `We saw ${of.of(things)} and ${of.of(things)}, ${of.below(40)} steps away.\nThen ${of.of(things)}.`;
    default:
      return of => `${of.of(first)} ${of.of(last)}`;
  }
}

/** Ways to say the same in other words, without regard to any language. */
const rewordings: ((label: string) => string)[] = [
  label => `${label.replace(/[?:.]$/, '')}, if you know`,
  label => `${label.replace(/[?:.]$/, '')} (new)`,
  label => `Please: ${label}`,
  label => label.split(' ').reverse().join(' ') + ' …',
];

type Edit = (
  questions: Question[],
  chance: Chance,
  rendered: Rendered,
) => { after: Question[]; wanted: FormCase['wanted'] } | null;

const nameOf = ({ asked }: Question, { isKeyed }: Rendered) => (isKeyed ? asked.key : asked.label);
const pick = (questions: Question[], chance: Chance, fits: (each: Question) => boolean) => {
  const all = questions.filter(fits);
  return all.length === 0 ? null : chance.of(all);
};
const put = (questions: Question[], one: Question, other: Partial<Asked>, more: Partial<Question> = {}) =>
  questions.map(each => (each === one ? { ...each, ...more, asked: { ...each.asked, ...other } } : each));
const often = (each: Question) => each.rate > 0.6;

/** What may be done to a form, each with what it has to be told as. */
const edits: Record<string, Edit> = {
  added: (questions, chance, rendered) => {
    const one = chance.of(questions);
    return {
      after: [
        ...questions,
        {
          ...one,
          rate: 0.95,
          asked: { ...one.asked, key: 'lantern', label: 'Lantern colour and make', sort: 'text' },
          answer: of => `${of.of(last)} lamp ${of.below(90)}`,
        },
      ],
      wanted: [{ change: 'added', question: rendered.isKeyed ? 'lantern' : 'Lantern colour and make' }],
    };
  },
  gone: (questions, chance, rendered) => {
    const one = pick(questions, chance, often);
    return one && questions.length > 3
      ? { after: questions.filter(each => each !== one), wanted: [{ change: 'gone', question: nameOf(one, rendered) }] }
      : null;
  },
  reworded: (questions, chance, rendered) => {
    if (!rendered.isWorded) return null;
    const one = pick(questions, chance, often);
    if (!one) return null;
    const label = chance.of(rewordings)(one.asked.label);
    // Where the wording is all that identifies a question, another one is another key.
    return {
      after: put(questions, one, { label }),
      wanted: [{ change: rendered.isKeyed ? 'reworded' : 'replaced', question: nameOf(one, rendered) }],
    };
  },
  replaced: (questions, chance, rendered) => {
    if (!rendered.isKeyed) return null;
    const one = pick(questions, chance, often);
    const key =
      one &&
      (rendered.isWorded ? `q${700 + chance.below(200)}` : `${one.asked.key}_${chance.of(['new', 'v2', '2', 'full'])}`);
    return one && key
      ? { after: put(questions, one, { key }), wanted: [{ change: 'replaced', question: one.asked.key }] }
      : null;
  },
  kind: (questions, chance, rendered) => {
    const one = pick(questions, chance, each => often(each) && ['number', 'date', 'email'].includes(each.asked.sort));
    return one
      ? {
          after: put(questions, one, { sort: 'text' }, { answer: of => `about ${of.of(things)}` }),
          wanted: [{ change: 'kind', question: nameOf(one, rendered) }],
        }
      : null;
  },
  notation: (questions, chance, rendered) => {
    const one = pick(questions, chance, each => often(each) && each.asked.sort === 'date');
    const write = chance.of([
      (y: string, m: string, d: string) => `${d}.${m}.${y}`,
      (y: string, m: string, d: string) => `${d}/${m}/${y}`,
      (y: string, m: string, d: string) => `${y}/${m}/${d}`,
    ]);
    return one
      ? {
          after: put(questions, one, {}, { answer: of => write('2026', two(1 + of.below(12)), two(1 + of.below(28))) }),
          wanted: [{ change: 'notation', question: nameOf(one, rendered) }],
        }
      : null;
  },
  'option-added': (questions, chance, rendered) => {
    const one = pick(questions, chance, each => often(each) && ['choice', 'choices'].includes(each.asked.sort));
    const { answers, sort } = one?.asked ?? { answers: [], sort: 'text' };
    const answer = (of: Chance) =>
      of.is(0.35) ? (sort === 'choices' ? ['Kingfisher'] : 'Kingfisher') : one!.answer(of);
    return one
      ? {
          after: put(questions, one, { answers: [...answers, 'Kingfisher'] }, { answer }),
          wanted: [{ change: 'option-added', question: nameOf(one, rendered) }],
        }
      : null;
  },
  'option-gone': (questions, chance, rendered) => {
    const one = pick(
      questions,
      chance,
      each => often(each) && ['choice', 'choices'].includes(each.asked.sort) && each.asked.answers.length > 2,
    );
    if (!one) return null;
    const answers = one.asked.answers.slice(1);
    const asked = { ...one.asked, answers };
    return {
      after: put(questions, one, { answers }, { answer: answering(asked, new Chance(1)) }),
      wanted: [{ change: 'option-gone', question: nameOf(one, rendered) }],
    };
  },
  'option-renamed': (questions, chance, rendered) => {
    const one = pick(questions, chance, each => often(each) && ['choice', 'choices'].includes(each.asked.sort));
    if (!one) return null;
    const [was] = one.asked.answers as [string];
    const now = chance.of([`${was} (all)`, `Any ${was}`, was.toUpperCase() === was ? `${was}!` : was.toUpperCase()]);
    const to = (value: string) => (value === was ? now : value);
    const answer = (of: Chance) => {
      const given = one.answer(of);
      return Array.isArray(given) ? given.map(to) : to(given);
    };
    return {
      after: put(questions, one, { answers: one.asked.answers.map(to) }, { answer }),
      wanted: [{ change: 'option-renamed', question: nameOf(one, rendered) }],
    };
  },
  'single-to-list': (questions, chance, rendered) => {
    const one = rendered.isText ? null : pick(questions, chance, each => often(each) && each.asked.sort === 'choice');
    return one
      ? {
          after: put(
            questions,
            one,
            { sort: 'choices' },
            { answer: of => [...new Set([one.answer(of) as string, one.answer(of) as string])] },
          ),
          wanted: [{ change: 'single-to-list', question: nameOf(one, rendered) }],
        }
      : null;
  },
  'list-to-single': (questions, chance, rendered) => {
    const one = rendered.isText ? null : pick(questions, chance, each => often(each) && each.asked.sort === 'choices');
    return one
      ? {
          after: put(questions, one, { sort: 'choice' }, { answer: of => (one.answer(of) as string[])[0]! }),
          wanted: [{ change: 'list-to-single', question: nameOf(one, rendered) }],
        }
      : null;
  },
};

const editNames = Object.keys(edits);

/** Draws a form, messages of it, and a change to it; of four cases one is clean and full of temptation. */
export function formCase(seed: number, half: Half): FormCase | null {
  const chance = new Chance(seed);
  const base = draw(seed, half);
  const medium = chance.of(media.filter(each => each.half === half));
  const isClean = chance.is(0.25);
  const asked = base.submissions[0]!.answers.map(each => each.asked);
  // A key that is there twice is none.
  if (new Set(asked.map(each => each.key)).size < asked.length) return null;
  const questions = asked.map((each): Question => ({
    asked: each,
    rate: chance.is(0.3) ? 0.15 + 0.6 * chance.next() : 1,
    answer: answering(each, chance),
  }));
  const send = (of: Question[], many: number, from: number, side: number) => {
    const people = new Chance(seed * 7 + side);
    return Array.from({ length: many }, (_, at) => rendered(base, medium, of, people, seed, from + at));
  };
  const [many, few] = [10 + chance.below(25), 8 + chance.below(14)];
  const before = send(questions, many, 0, 1);
  const [sample] = before;
  if (!sample) return null;
  const edit = isClean ? null : chance.of(editNames);
  const made = edit ? edits[edit]!(questions, chance, sample) : { after: tempted(questions, chance), wanted: [] };
  if (!made) return null;
  const after = send(made.after, few, many, 2);
  return {
    how: `${seed} ${edit ?? 'clean'}, ${sample.how}, ${base.vocabulary.name}, ${many}/${few}`,
    before: before.map(requestOf),
    after: after.map(requestOf),
    wanted: made.wanted,
  };
}

/** The same form, in ways that look like a change: what is optional is answered less, and in another order. */
const tempted = (questions: Question[], chance: Chance): Question[] => {
  const all = questions.map(each => (each.rate < 1 ? { ...each, rate: each.rate * 0.7 } : each));
  return chance.is(0.3) ? [...all.slice(1), all[0]!] : all;
};

function rendered(
  base: Draw,
  medium: (typeof media)[number],
  questions: Question[],
  people: Chance,
  seed: number,
  at: number,
): Rendered {
  const answers = questions.map((each): Answer => {
    const isAnswered = people.is(each.rate);
    const value = each.answer(people);
    return { asked: each.asked, value: isAnswered ? value : null };
  });
  if (answers.every(each => each.value === null)) answers[0]!.value = questions[0]!.answer(people);
  const one: Drawn = {
    id: `r-${1000 + at * 7}`,
    time: `2026-10-${two(1 + (at % 28))}T08:${two(at % 60)}:00Z`,
    answers,
  };
  // Every message is built by the same draws.
  return medium.render({ ...base, submissions: [one], chance: new Chance(seed + 99) });
}

const requestOf = ({ body, type, query }: Rendered): DriftRequest => ({
  body: new TextDecoder().decode(body),
  ...(type !== null && { type }),
  ...(query !== '' && { query }),
});

/** How changes that are told fare against those that were made. */
export interface DriftScore {
  cases: number;
  clean: number;
  falseAlarms: number;
  right: number;
  missed: number;
  wrong: number;
  notes: string[];
}

export const emptyScore = (): DriftScore => ({
  cases: 0,
  clean: 0,
  falseAlarms: 0,
  right: 0,
  missed: 0,
  wrong: 0,
  notes: [],
});

/** The last part of a key: readers may tell where a question stands before what it is called. */
const lastOf = (key: string | null) => (key === null ? null : key.split('.').at(-1)!.toLowerCase().trim());

export function judge(
  score: DriftScore,
  { how, wanted }: Pick<FormCase, 'how' | 'wanted'>,
  told: readonly { change: string; question: string | null }[],
): void {
  score.cases += 1;
  if (wanted.length === 0) score.clean += 1;
  if (wanted.length === 0 && told.length > 0) score.falseAlarms += 1;
  const left = [...told];
  for (const each of wanted) {
    const at = left.findIndex(one => one.change === each.change && lastOf(one.question) === lastOf(each.question));
    if (at >= 0) {
      left.splice(at, 1);
      score.right += 1;
    } else {
      score.missed += 1;
      score.notes.push(`${how}: missed ${each.change} ${each.question}; told ${JSON.stringify(told).slice(0, 200)}`);
    }
  }
  score.wrong += left.length;
  for (const each of left) score.notes.push(`${how}: wrong ${JSON.stringify(each).slice(0, 160)}`);
}

/** Draws cases until there are so many, and tells how their changes are told. */
export function formScore(count: number, half: Half, from = 1): DriftScore {
  const score = emptyScore();
  for (let seed = from; score.cases < count; seed++) {
    const one = formCase(seed, half);
    if (!one) continue;
    judge(score, one, formChanges(...readBoth(one.before, one.after)));
  }
  return score;
}
