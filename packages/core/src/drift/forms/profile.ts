import {
  asText,
  canonical,
  labelFromKey,
  type Field,
  type FieldKind,
  type Json,
  type Question,
  type StatedOption,
  type Submission,
} from '../../submission';
import { bare } from '../alike';
import { groupOf, type Group } from './writing';

/** One message, read: its submissions, and how it was found where their answers stand. */
export interface Message {
  submissions: readonly Submission[];
  /** What the body was read as: `json`, `urlencoded`… */
  media: string;
  /** How its answers were found; null where none were. */
  way: { reader: string; answersAt: string; splitAt: string | null } | null;
}

/** What a number of submissions tell of one question. */
export interface Asked {
  key: string;
  /** Its wordings, with how often each was used. */
  labels: Map<string, number>;
  /** In how many submissions it was shown, answered or not. */
  shown: number;
  kinds: Map<FieldKind, number>;
  /** What its answers are at bottom, with how many of each. */
  groups: Map<Group, number>;
  values: Json[];
  /** Options that the messages state for it, as of the last; null where they state none, or not the same ones to everybody. */
  stated: readonly StatedOption[] | null;
  /** Where it stands among the questions, from 0 for the first to 1 for the last, on average. */
  place: number;
}

/** What a number of messages of one form tell. */
export interface Profile {
  count: number;
  questions: Map<string, Asked>;
  /** Ways in which they were built, with how many messages each. */
  ways: Map<string, number>;
  media: Set<string>;
  /** True where every submission shows the same questions, answered or not: one that is not shown is not asked. */
  showsAll: boolean;
  /** True where the messages word their questions, and do not only name them. */
  isWorded: boolean;
}

/** Values of a question that are looked at. */
const MOST_VALUES = 400;

const blank = (key: string): Asked => ({
  key,
  labels: new Map(),
  shown: 0,
  kinds: new Map(),
  groups: new Map(),
  values: [],
  stated: null,
  place: 0,
});

/** A wording as it is compared: signs that mark what is required, and space around, say nothing. */
export function wording(label: string): string {
  let text = label.normalize('NFC').split(/\s+/).join(' ').trim();
  while (text.endsWith('*') || text.endsWith(':')) text = text.slice(0, -1).trimEnd();
  return text;
}

/** True for a label that the payload did not state: it says what the key says. */
const isMade = ({ key, label }: Pick<Question, 'key' | 'label'>): boolean =>
  label === key || label === labelFromKey(key) || bare(label) === bare(key);

const counted = <K>(counts: Map<K, number>, key: K) => counts.set(key, (counts.get(key) ?? 0) + 1);

/** Puts together what messages tell. */
export function profileOf(messages: readonly Message[]): Profile {
  const questions = new Map<string, Asked>();
  const ways = new Map<string, number>();
  const media = new Set<string>();
  const shownSets = new Set<string>();
  const chosenOptions = new Set<string>();
  const lists = new Map<string, StatedList[]>();
  let count = 0;
  let someBlank = false;
  let isWorded = false;
  for (const message of messages) {
    counted(ways, wayOf(message));
    media.add(message.media);
    for (const submission of message.submissions) {
      if (isAgain(submission, chosenOptions)) continue;
      count += 1;
      const shown = shownIn(submission);
      shownSets.add(
        shown
          .map(each => each.key)
          .sort()
          .join('\n'),
      );
      const fields = new Map(submission.fields.map(field => [field.key, field]));
      const files = new Set(submission.files.map(file => file.field));
      shown.forEach(({ key, label, options }, at) => {
        const known = questions.get(key) ?? blank(key);
        questions.set(key, known);
        known.place += shown.length > 1 ? at / (shown.length - 1) : 0;
        known.shown += 1;
        counted(known.labels, wording(label));
        isWorded ||= !isMade({ key, label });
        const field = fields.get(key);
        if (options) {
          const stated = lists.get(key) ?? [];
          stated.push({ options, isAll: isMore(options, field) });
          lists.set(key, stated);
        }
        if (field) {
          counted(known.kinds, field.kind);
          counted(known.groups, groupOf(field.kind, field.value));
          if (known.values.length < MOST_VALUES) known.values.push(field.value);
        } else if (files.has(key)) {
          counted(known.kinds, 'files');
          counted(known.groups, 'files');
        } else someBlank = true;
      });
    }
  }
  for (const each of questions.values()) {
    each.place /= Math.max(1, each.shown);
    each.stated = settledOptions(lists.get(each.key) ?? []);
  }
  return { count, questions, ways, media, showsAll: shownSets.size === 1 && someBlank, isWorded };
}

/** Answers from which on the same ones are a test that was sent again, and not somebody else who happens to say the same. */
const MANY_ANSWERS = 5;

function isAgain({ fields }: Submission, said: Set<string>): boolean {
  if (fields.length < MANY_ANSWERS) return false;
  const all = canonical(fields.map(({ key, value }) => [key, value]));
  if (said.has(all)) return true;
  said.add(all);
  return false;
}

/** The options that one message states for a question, and whether they are more than were chosen. */
interface StatedList {
  options: readonly StatedOption[];
  isAll: boolean;
}

/** Whether options are stated of which some were not chosen: else they may be no more than the answer again. */
function isMore(options: readonly StatedOption[], field: Field | undefined): boolean {
  const chosen = new Set(
    (Array.isArray(field?.value) ? field.value : [field?.value ?? null]).map(each => asText(each)),
  );
  return options.some(({ label }) => !chosen.has(label));
}

/** Messages in a row that have to state the same options, where there are as many. */
const IN_A_ROW = 3;

/** What messages state in the end, in their order: null where what is stated comes and goes, as where it depends on other answers. */
function settledOptions(lists: readonly StatedList[]): readonly StatedOption[] | null {
  const last = lists.at(-1);
  if (!last || !lists.some(each => each.isAll)) return null;
  const prints = lists.map(each => canonical(each.options.map(({ id = null, label }) => [id, label])));
  const print = prints.at(-1)!;
  const begin = prints.findLastIndex(each => each !== print) + 1;
  const isSettled = prints.length - begin >= Math.min(IN_A_ROW, prints.length);
  return isSettled && !prints.slice(0, begin).includes(print) ? last.options : null;
}

/** Every question that a submission shows, answered or not, each once. */
function shownIn({ questions, fields, files }: Submission): Pick<Question, 'key' | 'label' | 'options'>[] {
  const shown = new Map<string, Pick<Question, 'key' | 'label' | 'options'>>();
  for (const each of questions) if (!shown.has(each.key)) shown.set(each.key, each);
  for (const { key, label } of fields) if (!shown.has(key)) shown.set(key, { key, label });
  for (const { field } of files) if (!shown.has(field)) shown.set(field, { key: field, label: field });
  return [...shown.values()];
}

/** How a message is built: where its answers stand, whichever of a list it was. */
const wayOf = ({ media, way }: Message): string =>
  way ? [media, way.reader, plainPlace(way.answersAt), plainPlace(way.splitAt ?? '-')].join(' ') : `${media} nothing`;

const plainPlace = (pointer: string): string => pointer.replace(/\/\d+(?=\/|$)/g, '/#');
