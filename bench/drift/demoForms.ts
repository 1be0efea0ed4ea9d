import { formChanges, readBoth, type DriftRequest } from '@grammata/core/drift';
import { catalogue, type Answers, type Carried, type Filled, type Question } from '@grammata/practice';
import { edited, type EditKind, type FormEdit } from '../../packages/practice/src/builders/edits';
import { keyOf } from '../../packages/practice/src/builders/kinds/plainKeys';
import { pastAccessRows, pastAlerts, pastKitRequests, pastReports, pastSignUps, pastVisits } from '../../demo/src/past';
import { NEW_SITE } from '../../demo/src/past/reports';
import { Chance } from '../reading/draw';
import { emptyScore, judge, type DriftScore, type FormCase } from './forms';

// The demo's forms, with what people really answered there, sent by the practice yard's own builders before and after their owners
// changed them: what is told of them is judged by what the yard was told to do.

const until = Date.parse('2026-11-20T12:00:00Z');
const pasts: Record<string, Filled[]> = Object.fromEntries(
  Object.entries({
    'sampling-report': pastReports(until).filter(each => each.filled.answers.s1 !== NEW_SITE),
    'volunteer-sign-up': pastSignUps(until),
    'kit-request': pastKitRequests(until),
    'incident-alert': pastAlerts(until),
    'site-access-log': pastAccessRows(until),
    'school-visit': pastVisits(until),
  }).map(([id, all]) => [id, all.map(each => each.filled)]),
);

/** What identifies a question in a builder's messages, and whether it is worded there beside that. */
const identity: Record<string, { of: 'id' | 'key' | 'label'; isWorded: boolean }> = {
  'answer-list': { of: 'id', isWorded: true },
  'plain-keys': { of: 'key', isWorded: false },
  bracketed: { of: 'id', isWorded: false },
  multipart: { of: 'id', isWorded: false },
  notification: { of: 'label', isWorded: false },
  'row-feed': { of: 'key', isWorded: false },
};
/** Builders whose other generation is built otherwise for the same questions. */
const rebuilt = new Set(['answer-list', 'notification', 'row-feed']);

function nameIn({ kind }: Carried, { id, ask }: Pick<Question, 'id' | 'ask'>): string {
  switch (identity[kind.id]!.of) {
    case 'id':
      return id;
    case 'key':
      return keyOf(ask);
    case 'label':
      return ask.replace(/[?:]$/, '');
  }
}

function requestOf({ form, kind }: Carried, filled: Filled, generation: 'now' | 'earlier'): DriftRequest {
  const setting = { generation, method: 'POST' as const };
  if (kind.message) {
    const { body, contentType, query } = kind.message(form, filled, setting);
    return { body: body.toString(), type: contentType, query };
  }
  if (kind.row) {
    const row = kind.row(form, filled);
    return { body: (generation === 'now' ? { rows: [row], next: null } : [row]) as DriftRequest['body'] };
  }
  const { text, html } = kind.notification!(form, filled, setting);
  const head = `From: yard@example.org\r\nSubject: New answer\r\nMIME-Version: 1.0\r\nContent-Type: ${html === undefined ? 'text/plain' : 'text/html'}; charset=utf-8\r\nContent-Transfer-Encoding: 8bit`;
  return { body: `${head}\r\n\r\n${(html ?? text ?? '').replaceAll('\n', '\r\n')}`, type: 'message/rfc822' };
}

/** In any order: what people answered does not depend on when they did. */
function shuffled<T>(all: readonly T[], chance: Chance): T[] {
  const left = [...all];
  return all.map(() => left.splice(chance.below(left.length), 1)[0]!);
}

/** An answer as people give it to the changed form. */
function answeredAfter(
  answers: Answers,
  { questions }: Carried['form'],
  { question, what, to }: FormEdit,
  chance: Chance,
): Answers {
  const asked = questions.find(each => each.id === question)!;
  const [first] = asked.options ?? [];
  const last = asked.options?.at(-1);
  const answer = answers[question];
  const changed = { ...answers };
  const each = (edit: (option: string) => string): Answers[string] | undefined =>
    Array.isArray(answer) ? (answer as string[]).map(edit) : typeof answer === 'string' ? edit(answer) : answer;
  switch (what) {
    case 'replaced':
      delete changed[question];
      return answer === undefined ? changed : { ...changed, [`${question}n`]: answer };
    case 'option-renamed':
      return answer === undefined
        ? changed
        : { ...changed, [question]: each(option => (option === first ? to : option))! };
    case 'option-retired':
      return answer === undefined
        ? changed
        : { ...changed, [question]: each(option => (option === last ? first! : option))! };
    case 'option-added':
      return chance.is(0.35) ? { ...changed, [question]: asked.kind === 'picks' ? [to] : to } : changed;
    case 'added':
      return chance.is(0.9) ? { ...changed, [`${question}x`]: `some ${chance.below(90)}` } : changed;
    default:
      return changed;
  }
}

const wordsFor: Record<EditKind, (question: Question) => string> = {
  reworded: ({ ask }) => `${ask.replace(/[?:]$/, '')}, please`,
  replaced: () => '',
  retired: () => '',
  'option-renamed': ({ options }) => `${options![0]} (all)`,
  'option-added': () => 'Kingfisher',
  'option-retired': () => '',
  added: () => 'Colour of your lantern',
};

/** What such an edit has to be told as, in the messages of a builder; null where they do not show it. */
function wantedOf(carried: Carried, question: Question, what: EditKind): FormCase['wanted'] | null {
  const name = nameIn(carried, question);
  const { of, isWorded } = identity[carried.kind.id]!;
  switch (what) {
    case 'reworded':
      // A key that is cut off may stay what it was.
      if (of === 'key' && keyOf(wordsFor.reworded(question)) === name) return null;
      return of !== 'id'
        ? [{ change: 'replaced', question: name }]
        : isWorded
          ? [{ change: 'reworded', question: name }]
          : null;
    case 'replaced':
      return of === 'id' ? [{ change: 'replaced', question: name }] : null;
    case 'retired':
      return [{ change: 'gone', question: name }];
    case 'option-retired':
      return [{ change: 'option-gone', question: name }];
    case 'added': {
      const added = { id: `${question.id}x`, ask: wordsFor.added(question) };
      return [{ change: 'added', question: nameIn(carried, added) }];
    }
    default:
      return [{ change: what, question: name }];
  }
}

const kinds: EditKind[] = [
  'reworded',
  'replaced',
  'retired',
  'option-renamed',
  'option-added',
  'option-retired',
  'added',
];

/** Draws one of the demo's forms, a run of its answers, and a change; of four cases one is clean. Null where it would not show. */
export function demoCase(seed: number): FormCase | null {
  const chance = new Chance(seed * 31 + 5);
  const carried = chance.of(catalogue);
  const all = shuffled(pasts[carried.id]!, chance);
  const [many, few] = [Math.min(all.length - 8, 12 + chance.below(25)), 7 + chance.below(12)];
  const from = chance.below(Math.max(1, all.length - many - few));
  const [was, is] = [all.slice(from, from + many), all.slice(from + many, from + many + few)];
  if (is.length < 6) return null;
  const before = was.map(each => requestOf(carried, each, 'now'));
  const told = (how: string, after: DriftRequest[], wanted: FormCase['wanted']): FormCase => ({
    how: `demo ${seed} ${carried.id} ${how}, ${was.length}/${is.length}`,
    before,
    after,
    wanted,
  });
  if (chance.is(0.25)) {
    // As before, but for the order in which questions are asked.
    const { questions } = carried.form;
    const moved = {
      ...carried,
      form: { ...carried.form, questions: chance.is(0.4) ? [...questions].reverse() : questions },
    };
    return told(
      'clean',
      is.map(each => requestOf(moved, each, 'now')),
      [],
    );
  }
  if (rebuilt.has(carried.kind.id) && chance.is(0.12))
    return told(
      'generation',
      is.map(each => requestOf(carried, each, 'earlier')),
      [{ change: 'envelope', question: null }],
    );
  const what = chance.of(kinds);
  const isOfOptions = what.startsWith('option');
  const answered = (question: Question) =>
    was.filter(each => each.answers[question.id] !== undefined).length >= was.length * 0.6;
  const fitting = carried.form.questions.filter(
    each =>
      answered(each) &&
      (!isOfOptions || (each.options?.length ?? 0) > 2) &&
      each.kind !== 'rows' &&
      each.kind !== 'place',
  );
  if (fitting.length === 0) return null;
  const question = chance.of(fitting);
  const wanted = wantedOf(carried, question, what);
  const edit: FormEdit = { question: question.id, what, to: wordsFor[what](question) };
  if (!wanted) return null;
  // An option that was hardly chosen is not missed by anybody.
  if (what === 'option-retired' || what === 'option-renamed') {
    const option = what === 'option-retired' ? question.options!.at(-1) : question.options![0];
    const chosen = [...was, ...is].filter(each => [each.answers[question.id]].flat().includes(option as never));
    if (chosen.length < (was.length + is.length) * 0.2) return null;
  }
  const changed = { ...carried, form: edited(carried.form, [edit]) };
  const after = is.map(each => ({ ...each, answers: answeredAfter(each.answers, carried.form, edit, chance) }));
  return told(
    `${what} ${question.id}`,
    after.map(each => requestOf(changed, each, 'now')),
    wanted,
  );
}

/** Draws cases until there are so many, and tells how their changes are told. */
export function demoScore(count: number, from = 1): DriftScore {
  const score = emptyScore();
  for (let seed = from; score.cases < count && seed < from + 40 * count; seed++) {
    const one = demoCase(seed);
    if (!one) continue;
    judge(score, one, formChanges(...readBoth(one.before, one.after)));
  }
  return score;
}
