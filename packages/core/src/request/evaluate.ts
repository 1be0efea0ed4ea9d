import { answerOf, asText, isBlank, type Json, type Submission } from '../submission';
import { refusal, type TargetField } from '../target';
import { compileChain, isProblem, Problem, type Chain, type TransformContext } from '../transform';
import type { Line, Source } from './line';

/** How a line fares on one submission. */
export interface Outcome {
  /** fine: a value is sent. blank: nothing to send. trouble: it can't be sent as it is. */
  state: 'fine' | 'blank' | 'trouble';
  /** The value that goes into the request; undefined when the field is left out. */
  value: Json | undefined;
  problem: Problem | null;
  /** True when the request may not go because of this line. */
  stops: boolean;
}

export interface CompiledLine {
  line: Line;
  field: TargetField | null;
  chain: Chain;
  /** The value before cleaning. */
  sourceValue(submission: Submission): Json;
  outcome(submission: Submission, context?: TransformContext): Outcome;
}

/** Compiles a line once; its functions then take any number of submissions. */
export function compileLine(line: Line, field: TargetField | null): CompiledLine {
  const chain = compileChain(line.cleaning);
  const sourceValue = compileSource(line.source);
  return {
    line,
    field,
    chain,
    sourceValue,
    outcome(submission, context) {
      const raw = sourceValue(submission);
      const cleaned = chain.faults.length > 0 ? chain.run(raw) : isBlank(raw) ? raw : chain.run(raw, context);
      if (isProblem(cleaned)) return troubled(line, field, cleaned);
      if (isBlank(cleaned)) return blank(line, field);
      const refused = field ? refusal(field, cleaned) : noField(line);
      return refused ? troubled(line, field, refused) : fine(cleaned);
    },
  };
}

function compileSource(source: Source | null): (submission: Submission) => Json {
  if (source === null) return () => null;
  if (source.from === 'constant') return () => source.value;
  if (source.from === 'field') return submission => answerOf(submission, source.field) ?? null;
  const { segments } = source;
  return submission => {
    const answers = segments.map(each => ('text' in each ? each.text : textOfAnswer(answerOf(submission, each.field))));
    // A text whose every answer is blank says nothing, whatever stands around them.
    const nothing =
      segments.some(each => 'field' in each) &&
      segments.every((each, index) => 'text' in each || answers[index] === '');
    return nothing ? '' : answers.join('');
  };
}

/** An answer inside a text: the names of files, the rest as text. */
const textOfAnswer = (value: Json | undefined): string =>
  Array.isArray(value)
    ? value
        .map(item => (typeof item === 'object' && item !== null && 'name' in item ? asText(item.name) : asText(item)))
        .join(', ')
    : asText(value);

const fine = (value: Json): Outcome => ({ state: 'fine', value, problem: null, stops: false });

const noField = (line: Line) => new Problem('target.noField', `The target has no field “${line.to}” any more.`, null);

function blank(line: Line, field: TargetField | null): Outcome {
  if (line.whenBlank === 'fallback') return withFallback(line, field, null);
  const stopped = line.whenBlank === 'stop';
  if (stopped || (field?.required && line.whenBlank !== 'empty')) {
    const problem = new Problem(
      'line.blank',
      `${line.to} is ${field?.required ? 'required' : 'set to stop when blank'}, and this submission has no answer for it.`,
      null,
    );
    return { state: 'trouble', value: undefined, problem, stops: true };
  }
  const value = line.whenBlank === 'null' ? null : line.whenBlank === 'empty' ? '' : undefined;
  return { state: 'blank', value, problem: null, stops: false };
}

function troubled(line: Line, field: TargetField | null, problem: Problem): Outcome {
  if (line.whenProblem === 'fallback') return withFallback(line, field, problem);
  const stops = line.whenProblem === 'stop' || field?.required === true;
  return { state: 'trouble', value: undefined, problem, stops };
}

function withFallback(line: Line, field: TargetField | null, reason: Problem | null): Outcome {
  const refused = field ? refusal(field, line.fallback) : null;
  if (refused) return { state: 'trouble', value: undefined, problem: refused, stops: true };
  return { state: reason ? 'trouble' : 'fine', value: line.fallback, problem: reason, stops: false };
}
