import { BEFORE, lookAtForm, NEWEST } from '../../packages/server/src/drift/formChanges';
import type { FieldKind, Json, Submission } from '@grammata/core/submission';
import { Chance } from '../reading/draw';

type Row = Parameters<typeof lookAtForm>[0][number];

interface Question {
  key: string;
  kind: FieldKind;
  /** Share of the submissions that answer it. */
  fill: number;
  draw(chance: Chance): Json;
}

const words = 'river weir ford foam bank mill lock otter heron stone reed path bridge water level clear'.split(' ');
const sentence = (chance: Chance) => Array.from({ length: 2 + chance.below(9) }, () => chance.of(words)).join(' ');
const two = (number: number) => String(number).padStart(2, '0');

/** Ways of answering, each with the kind that reading gives it: options chosen evenly or hardly ever, what people type, what a builder writes. */
function wayOf(chance: Chance): Pick<Question, 'kind' | 'draw'> {
  const options = Array.from({ length: 2 + chance.below(9) }, (_, at) => `${chance.of(words)} ${at}`);
  const steep = chance.of([0.3, 1, 1.6]);
  const weights = options.map((_, at) => 1 / (at + 1) ** steep);
  const whole = weights.reduce((sum, each) => sum + each, 0);
  const one = (of: Chance) => {
    let left = of.next() * whole;
    return options[weights.findIndex(each => (left -= each) < 0)] ?? options[0]!;
  };
  const ways: Pick<Question, 'kind' | 'draw'>[] = [
    { kind: 'text', draw: of => sentence(of).slice(0, 30) },
    { kind: 'multiline', draw: sentence },
    { kind: 'choice', draw: one },
    { kind: 'text', draw: one },
    { kind: 'choices', draw: of => [...new Set([one(of), one(of), one(of)])] },
    { kind: 'date', draw: of => `2026-${two(1 + of.below(12))}-${two(1 + of.below(28))}` },
    { kind: 'text', draw: of => of.of([`${1 + of.below(28)}/${1 + of.below(12)}/2026`, 'last Friday', 'not sure']) },
    { kind: 'number', draw: of => of.below(100) },
    { kind: 'text', draw: of => of.of([`${of.below(30)}`, `${of.below(30)} °C`, `about ${of.below(9)}`]) },
    { kind: 'boolean', draw: of => of.is(0.8) },
    { kind: 'phone', draw: of => of.of([`020 7946 0${100 + of.below(899)}`, `+44 20 7946 0${100 + of.below(899)}`]) },
  ];
  return chance.of(ways);
}

/** A form that never changes, with questions that all, most or hardly any answer, and messages that show blanks or leave them out. */
function quietForm(seed: number) {
  const chance = new Chance(seed);
  const questions = Array.from({ length: 5 + chance.below(9) }, (_, at): Question => {
    const fill = chance.is(0.4) ? 1 : chance.of([0.05, 0.15, 0.3, 0.5, 0.7, 0.85, 0.95, 0.99]);
    return { key: `q${at}`, fill, ...wayOf(chance) };
  });
  return { questions, showsBlanks: chance.is(0.5) };
}

function rowOf({ questions, showsBlanks }: ReturnType<typeof quietForm>, chance: Chance, at: number): Row {
  const fields: Submission['fields'] = [];
  const asked: Submission['questions'] = [];
  for (const { key, kind, fill, draw } of questions) {
    const isAnswered = chance.is(fill);
    const place = { key, label: key, pointer: `/${key}` };
    if (isAnswered) fields.push({ ...place, kind, value: draw(chance) });
    if (isAnswered || showsBlanks) asked.push(place);
  }
  const data: Submission = {
    form: null,
    id: `${at}`,
    submittedAt: null,
    fields,
    files: [],
    questions: asked,
    meta: {},
  };
  const way = { reader: 'flat', answersAt: '', splitAt: null };
  return { id: `${at}`, receivedAt: at * 864_000, contentType: 'application/json', way, data: JSON.stringify(data) };
}

/** Changes told of forms that never changed, each once, by what they say; every submission is a look. */
export function quietAlarms(forms: number, submissions: number, seed: number): Map<string, number> {
  const alarms = new Map<string, number>();
  for (let form = 0; form < forms; form++) {
    const drawn = quietForm(seed + form);
    const chance = new Chance(seed + form + 500_000);
    const told = new Set<string>();
    let rows: Row[] = [];
    for (let at = 0; at < submissions; at++) {
      rows = [rowOf(drawn, chance, at), ...rows].slice(0, NEWEST + BEFORE);
      for (const { what } of lookAtForm(rows, at + 1).changes) {
        const key = JSON.stringify([what.change, what.question, what.was, what.now]);
        if (told.has(key)) continue;
        told.add(key);
        alarms.set(what.change, (alarms.get(what.change) ?? 0) + 1);
      }
    }
  }
  return alarms;
}
