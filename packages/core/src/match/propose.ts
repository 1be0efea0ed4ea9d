import { compileLine } from '../request';
import { newLine, type Line, type Source } from '../route';
import type { FieldSchema, FormSchema } from '../schema';
import { scopeOf } from '../scope';
import { answerOf, type Json, type Submission } from '../submission';
import { optionName, writable, type Operation, type TargetField } from '../target';
import { cleaningFor } from './cleaning';
import type { MatchTarget, SourceField } from './evidence';
import { match, type Proposal } from './match';

/** A line that could be drawn: where its value would come from, the cleaning it would take, and why. */
export interface LineProposal {
  /** Key of the target's field. */
  to: string;
  source: Source;
  cleaning: Line['cleaning'];
  /** 0 to 1. */
  score: number;
  /** The reason, in a sentence. */
  why: string;
  /** Share of the answers looked at that the target would take; null where there were none. */
  fine: number | null;
}

/** From this confidence on a proposal may be sure. */
const SURE = 0.85;
/** Share of the recorded answers that have to be taken: a few can be read by nobody. */
const HOLDS = 0.9;

/** True for what may be taken unseen: it is hardly ever wrong, was tried on what was recorded, and holds. */
export const isSure = ({ score, fine }: Pick<LineProposal, 'score' | 'fine'>): boolean =>
  score >= SURE && fine !== null && fine >= HOLDS;

/** From this confidence on a proposal is likely. */
const LIKELY = 0.65;

/** True for what is right more often than not, and is to be looked at. */
export const isLikely = ({ score }: Pick<LineProposal, 'score'>): boolean => score >= LIKELY;

/** Most submissions that are looked at. */
const MOST_SAMPLES = 200;
/** Below this share of values that the target would take, the cleaning is not worth proposing. */
const LEAST_FINE = 0.4;

/** The question as the matcher sees it: with its options, or some of its answers. */
function sourceField({ key, label, kind, options }: FieldSchema, values: Json[]): SourceField {
  const chosen = options.map(each => each.value);
  return { key, label, kind, samples: chosen.length > 0 ? chosen : values.slice(0, 30) };
}

const targetField = ({ key, label, type, required, options, optionNames, description }: TargetField): MatchTarget => ({
  key,
  label,
  type,
  required,
  // People choose by what options are called.
  ...(options ? { options: options.flatMap(each => [...new Set([optionName({ optionNames }, each), each])]) } : {}),
  ...(description ? { description } : {}),
});

/** Problems that say what only a person can tell: a region, the order of a date, the mark before the decimals. */
const isAskedOf = (code: string) => ['phone.region', 'date.order', 'number.mark'].includes(code);

/**
 * Proposes lines for the fields of an operation out of a form's questions and its submissions, cleaning included. What
 * the target would refuse most of the time is not proposed.
 */
export function propose(schema: FormSchema, submissions: Submission[], operation: Operation): LineProposal[] {
  const looked = submissions.slice(0, MOST_SAMPLES);
  const valuesOf = new Map(
    schema.fields.map(field => [
      field.key,
      looked.map(each => answerOf(each, field.key)).filter(value => value !== undefined),
    ]),
  );
  const fields = writable(operation).filter(field => field.fixed === undefined);
  const proposals = match(
    schema.fields.map(field => sourceField(field, valuesOf.get(field.key)!)),
    fields.map(targetField),
  );
  return proposals.flatMap(({ to, from, score, why, part, composed }, index): LineProposal[] => {
    const asked = schema.fields.find(each => each.key === from);
    if (!asked) return [];
    const field = fields[index]!;
    const others = [...valuesOf].filter(([key]) => key !== asked.key).map(([key, values]) => ({ key, values }));
    const cleaning = composed ? [] : cleaningFor(asked, valuesOf.get(asked.key)!, field, part, others);
    const source: Source = composed ? composedOf(composed) : { from: 'field', field: asked.key };
    const line = compileLine({ ...newLine(to, to), source, cleaning }, field);
    const outcomes = looked
      .map(each => line.outcome(scopeOf(each)))
      .filter(each => each.value !== undefined || each.problem?.code !== 'line.blank');
    const filled = outcomes.filter(each => each.state !== 'blank');
    const fine = filled.length === 0 ? null : filled.filter(each => each.state === 'fine').length / filled.length;
    // What only a person can say is asked of them, and is no reason against the line.
    const asking = filled.filter(each => each.problem && isAskedOf(each.problem.code)).length;
    if (fine !== null && fine + asking / filled.length < LEAST_FINE) return [];
    return [{ to, source, cleaning, score, why, fine }];
  });
}

/** A text of several answers: what stands before one goes with it where it is blank. */
const composedOf = (parts: NonNullable<Proposal['composed']>): Source => ({
  from: 'text',
  segments: parts.map(({ from, before }) =>
    before === '' ? { field: from } : { part: [{ text: before }, { field: from }] },
  ),
});
