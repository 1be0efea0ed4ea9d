import type { Json, JsonObject } from '@grammata/core/submission';
import { namings, vocabularies, type Asked, type Names, type Vocabulary } from './words';

/** A pseudo-random source: the same seed gives the same draws (mulberry32, public domain). */
export class Chance {
  #state: number;
  constructor(seed: number) {
    this.#state = seed >>> 0;
  }
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(this.#state ^ (this.#state >>> 15), 1 | this.#state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  }
  below(count: number): number {
    return Math.floor(this.next() * count);
  }
  of<T>(all: readonly T[]): T {
    return all[this.below(all.length)]!;
  }
  is(share: number): boolean {
    return this.next() < share;
  }
  some<T>(all: readonly T[], least: number): T[] {
    const kept = all.filter(() => this.is(0.6));
    return kept.length >= least ? kept : all.slice(0, Math.max(least, kept.length));
  }
}

export interface Answer {
  asked: Asked;
  /** As people read it; null where it was left blank. */
  value: string | string[] | null;
}

export interface Drawn {
  id: string;
  time: string;
  answers: Answer[];
}

/** What weights were fitted on, what was held out at first, and what was written when the design was done and never looked into. */
export type Half = 'fitted' | 'held' | 'unread';

/** A form with some submissions, and how they are to be written. */
export interface Draw {
  seed: number;
  half: Half;
  vocabulary: Vocabulary;
  names: Names;
  form: { key: string; name: string };
  submissions: Drawn[];
  chance: Chance;
}

export function draw(seed: number, half: Half): Draw {
  const chance = new Chance(seed);
  const vocabulary = chance.of(vocabularies[half]);
  const asked = chance.some(vocabulary.questions, 4);
  const count = chance.is(0.6) ? 1 : 2 + chance.below(3);
  const style = chance.below(3);
  const submissions = Array.from({ length: count }, (_, index): Drawn => {
    const answers = asked.map((each): Answer => {
      if (chance.is(0.1)) return { asked: each, value: null };
      if (each.sort === 'choices') return { asked: each, value: chance.some(each.answers, 1) };
      return { asked: each, value: chance.of(each.answers) };
    });
    // A submission that says nothing is none.
    if (answers.every(each => each.value === null)) answers[0] = { asked: asked[0]!, value: asked[0]!.answers[0]! };
    const number = 100 + chance.below(900) + index * 1000;
    const at = `2026-0${1 + chance.below(9)}-1${chance.below(9)}`;
    return {
      id: [`r-${number}`, String(number), `${number.toString(16)}a-b${index}`][style]!,
      time: [`${at}T08:1${index}:00Z`, `${at} 09:2${index}`, `${at}T10:3${index}:00+02:00`][style]!,
      answers,
    };
  });
  return {
    seed,
    half,
    vocabulary,
    names: chance.of(namings[half]),
    form: { key: `f-${10 + chance.below(80)}`, name: chance.of(vocabulary.forms) },
    submissions,
    chance,
  };
}

/** The draw with names that are known: beside the answers, nothing else could tell what is none. */
export function withKnownNames(draw: Draw): Draw {
  if (draw.names.isUnknown) draw.names = draw.chance.of(namings[draw.half].filter(each => !each.isUnknown));
  return draw;
}

/** The value of an answer as JSON has it. */
export const jsonOf = ({ asked, value }: Answer): Json =>
  value === null
    ? asked.sort === 'choices'
      ? []
      : null
    : asked.sort === 'number'
      ? Number(value)
      : asked.sort === 'boolean'
        ? value === 'true'
        : value;

/** The same as a text. */
export const textOf = ({ value }: Answer): string =>
  value === null ? '' : Array.isArray(value) ? value.join(', ') : value;

export const kindOf = ({ sort }: Asked): string =>
  ({
    text: 'text',
    long: 'textarea',
    choice: 'radio',
    choices: 'checkboxes',
    number: 'number',
    email: 'email',
    date: 'text',
    boolean: 'boolean',
  })[sort];

export const entriesOf = (answers: Answer[], name: (asked: Asked) => string): JsonObject =>
  Object.fromEntries(answers.map(each => [name(each.asked), jsonOf(each)]));
