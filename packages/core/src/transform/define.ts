import type { FieldKind, Json } from '../submission';
import type { StepId } from './ids';

/** Why a value could not be made: a stable code, a message that names the value and what to do, and the value at fault. */
export class Problem {
  constructor(
    readonly code: string,
    readonly message: string,
    readonly value: Json,
  ) {}
}

export const isProblem = (value: unknown): value is Problem => value instanceof Problem;

/** One step of a chain as it is stored. A step that is off stays in its place and does nothing. */
export interface Step {
  id: string;
  params: Record<string, unknown>;
  off?: boolean;
}

/** Makes a chain of steps, for a transform that has steps of its own. */
export type Compile = (steps: readonly Step[]) => {
  run(value: Json, context?: TransformContext): Json | Problem;
  explain: string[];
};

/** What a transform may know beside the value. */
export interface TransformContext {
  /** IANA name of the time zone in which times without one are read. */
  timeZone: string;
  /** What a reference stands for in the submission at hand; undefined where nothing was said, missing where there is none. */
  answer?: (key: string) => Json | undefined;
}

export const defaultContext: TransformContext = { timeZone: 'UTC' };

export type Family =
  | 'text'
  | 'name'
  | 'phone'
  | 'e-mail'
  | 'address'
  | 'number'
  | 'date'
  | 'yes/no'
  | 'choice'
  | 'list'
  | 'files'
  | 'table'
  | 'lookup'
  | 'logic'
  | 'json'
  | 'id'
  | 'expression';

/** Describes one parameter for the interface: how it is asked for. */
export interface ParameterField {
  name: string;
  label: string;
  /** Choices to pick from; a text box without them. */
  choices?: { value: string | boolean; label: string }[];
  /**
   * How it is given: a number, a text of several lines, pairs of answers and options, a table of lines that may come from a file,
   * another question of the form, a system that is known (a target, the form builder), or a chain of steps; a line of text
   * without it.
   */
  kind?: 'number' | 'lines' | 'pairs' | 'table' | 'question' | 'system' | 'steps';
  /** True when the parameter may stay empty. */
  optional?: boolean;
  hint?: string;
}

export interface Example<P> {
  params: P;
  in: Json;
  /** The value it gives, or the code of the problem. */
  out: Json | { problem: string };
}

/** One cleaning step. Adding one means adding a file with one of these and a line in the index. */
export interface Transform<P extends object = object> {
  id: StepId;
  family: Family;
  label: string;
  /** What it does, in one sentence for the picker. */
  summary: string;
  /** Class whose class-validator rules say what parameters hold; its field values are the defaults. */
  params: new () => P;
  asks: ParameterField[];
  accepts: readonly FieldKind[] | 'any';
  /** The kind it gives; `same` for one that changes each text of a list and leaves the list a list. */
  returns: FieldKind | 'same';
  /** The step in words, to be read after the words of the step before it. */
  explain(params: P, compile: Compile): string;
  /** True when it may ask the context for other answers. */
  looksAround?: boolean;
  /** True when it wants to see empty lists; other blanks flow past it. */
  takesEmptyLists?: boolean;
  /** Never throws: a value, or a problem. Is not called with a blank. */
  apply(value: Json, params: P, context: TransformContext, compile: Compile): Json | Problem;
  /** Its documentation and its tests. */
  examples: Example<P>[];
}

export const defineTransform = <P extends object>(definition: Transform<P>): Transform<P> => definition;
