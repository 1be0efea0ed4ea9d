import { escapeToken, isJsonObject, type Json, type Question } from '../../submission';
import type { AnswerReader } from '../value';
import { namesIn, sortOf, sortOfMeta, sorts } from './sort';

/** A question of a shape: where its answer stands, and how it is read. */
export interface Asked extends Question {
  read: AnswerReader;
}

/** A scalar that is no answer and may be another in each message; the result refers to it by its slot. */
export interface SlotNode {
  is: 'said';
  slot: number;
  /** Bits of `sorts`. */
  accepts: number;
}

export interface Constant {
  is: 'constant';
  value: Json;
  /** True for what the reading rests on: wordings, identifiers of questions and options, what names the form. */
  isFixed: boolean;
}

/** Another in each, and part of no result. */
export interface Free {
  is: 'free';
  accepts: number;
}

export interface Answer {
  is: 'answer';
  asked: Asked;
  accepts: number;
  /** Names of properties inside its structured values. */
  names: Set<string>;
}

/** What a message of a shape holds, place by place. */
export type Template =
  /** The same in each: wordings, names, identifiers of questions. */
  Constant | Free | SlotNode | Answer | Inner;

export interface Inner {
  is: 'object' | 'list';
  /** Names of an object's properties; numbers for a list. */
  names: string[];
  parts: Template[];
  /** True where each part is a question of its own: a message may lack any of them. */
  isOpen: boolean;
  /** JSON Pointer of this place, where it is open. */
  pointer: string;
}

/** An answer that was found. */
export interface Found {
  asked: Asked;
  value: Json;
  pointer: string;
}

/** What a message holds in the places of a template. */
export class Fit {
  readonly found: Found[] = [];
  /** By slot; undefined where nothing was found yet. */
  readonly said: (Json | undefined)[] = [];
  /** What the template has to learn before it fits such a message. */
  readonly lessons: (() => void)[] = [];
  /** Names of parts that the open place of the template does not know. */
  readonly unknown: string[] = [];

  /** @param isLenient whether what may be learned is let through */
  constructor(readonly isLenient: boolean) {}
}

/** Whether a value fits a template; what it holds is put into `fit`. */
export function fits(template: Template, value: Json, fit: Fit): boolean {
  switch (template.is) {
    case 'constant':
      return template.value === value || (fit.isLenient && mayBeFree(template, value, fit));
    case 'free':
      return accepts(template, value, fit);
    case 'said': {
      const before = fit.said[template.slot];
      if (before !== undefined) return before === value && accepts(template, value, fit);
      fit.said[template.slot] = value;
      return typeof value !== 'object' || value === null ? accepts(template, value, fit) : false;
    }
    case 'answer':
      fit.found.push({ asked: template.asked, value, pointer: template.asked.pointer });
      return accepts(template, value, fit) && knowsNames(template, value, fit);
    case 'object':
      if (!isJsonObject(value)) return false;
      return template.isOpen ? fitsOpenObject(template, value, fit) : fitsObject(template, value, fit);
    case 'list':
      if (!Array.isArray(value)) return false;
      if (template.isOpen) return fitsOpenList(template, value, fit);
      return value.length === template.parts.length && template.parts.every((part, at) => fits(part, value[at]!, fit));
  }
}

function accepts(place: SlotNode | Free | Answer, value: Json, fit: Fit): boolean {
  const sort = place.is === 'said' ? sortOfMeta(value) : sortOf(value);
  if ((place.accepts & sort) !== 0) return true;
  if (!fit.isLenient || sort === sorts.opening) return false;
  fit.lessons.push(() => (place.accepts |= sort));
  return true;
}

function knowsNames(template: Answer, value: Json, fit: Fit): boolean {
  if (typeof value !== 'object' || value === null) return true;
  const unknown = [...namesIn(value)].filter(name => !template.names.has(name));
  if (unknown.length > 0) fit.lessons.push(() => unknown.forEach(name => template.names.add(name)));
  return unknown.length === 0 || fit.isLenient;
}

/** Scalars that count or tell a time may be another in each message, where nothing rests on them. */
function mayBeFree(template: Constant, after: Json, fit: Fit): boolean {
  const before = template.value;
  if (template.isFixed || typeof before !== typeof after || typeof after === 'object') return false;
  fit.lessons.push(() => Object.assign(template, { is: 'free', accepts: sortOf(before) | sortOf(after) }));
  return typeof after === 'number' || (/\d/.test(String(after)) && /\d/.test(String(before)));
}

function fitsObject({ names, parts }: Inner, value: Record<string, Json>, fit: Fit): boolean {
  let at = 0;
  for (const name in value) {
    if (names[at] !== name || !fits(parts[at]!, value[name]!, fit)) return false;
    at += 1;
  }
  return at === names.length;
}

function fitsOpenObject({ names, parts }: Inner, value: Record<string, Json>, fit: Fit): boolean {
  let at = 0;
  const skip = (until: number) => {
    for (; at < until; at++) if (!holdsAnswer(parts[at]!)) return false;
    return true;
  };
  for (const name in value) {
    const next = names[at] === name ? at : names.indexOf(name, at);
    if (next < 0) {
      if (!fit.isLenient || names.includes(name)) return false;
      fit.unknown.push(name);
      continue;
    }
    if (!skip(next) || !fits(parts[next]!, value[name]!, fit)) return false;
    at = next + 1;
  }
  return skip(parts.length);
}

function fitsOpenList({ parts, pointer }: Inner, value: Json[], fit: Fit): boolean {
  let at = 0;
  for (let index = 0; index < value.length; index++) {
    const [found, lessons] = [fit.found.length, fit.lessons.length];
    let next = at;
    for (; next < parts.length; next++) {
      if (fits(parts[next]!, value[index]!, fit)) break;
      fit.found.length = found;
      fit.lessons.length = lessons;
    }
    if (next === parts.length) {
      if (!fit.isLenient) return false;
      fit.unknown.push(String(index));
      continue;
    }
    if (next !== index)
      for (let each = found; each < fit.found.length; each++) {
        const own = `${pointer}/${index}${fit.found[each]!.pointer.slice(`${pointer}/${next}`.length)}`;
        fit.found[each]!.pointer = own;
      }
    at = next + 1;
  }
  return true;
}

/** True where an answer stands in or below it. */
export const holdsAnswer = (template: Template): boolean =>
  template.is === 'answer' ||
  ((template.is === 'object' || template.is === 'list') && template.parts.some(holdsAnswer));

/** A template's answers, in their order. */
export const askedIn = (template: Template): Asked[] =>
  template.is === 'answer'
    ? [template.asked]
    : template.is === 'object' || template.is === 'list'
      ? template.parts.flatMap(askedIn)
      : [];

/** The pointer of a part of an object or a list. */
export const partAt = (pointer: string, name: string): string => `${pointer}/${escapeToken(name)}`;
