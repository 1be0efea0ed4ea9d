import { compileLine } from '../request';
import type { Line } from '../route';
import type { FieldSchema } from '../schema';
import { questionKey, scopeOf } from '../scope';
import { answerOf, isBlank, isJsonObject, type Json, type Submission } from '../submission';
import type { TargetField } from '../target';
import { compileChain, isProblem, type Step, type TransformContext } from '../transform';
import { cleaningFor } from './cleaning';
import type { Part } from './match';
import type { OtherAnswers } from './region';

/** Cleaning that would bring more of a line's answers into what its field takes. */
export interface Remedy {
  cleaning: Step[];
  /** What it does, in words. */
  words: string;
  /** Answers that would be taken, of how many that are not blank; and how many are taken now. */
  fine: number;
  of: number;
  now: number;
}

/** Most submissions that are looked at. */
export const REMEDY_SAMPLES = 200;

/** Words by which fields ask for one part of a name or an address. *Common practice, no source.* */
const parts: [Part, RegExp][] = [
  ['given', /\b(given|first|fore|vor)[ _-]?name|given_|firstname/i],
  ['family', /\b(family|last|sur|nach)[ _-]?name|lastname/i],
  ['street', /street|strasse|straße|address[_ ]?(line)?[_ ]?1/i],
  ['city', /\b(city|town|locality|ort|stadt)/i],
  ['postcode', /post(al)?[_ ]?code|\bzip|\bplz/i],
  ['region', /\b(region|county|state|province)/i],
  ['country', /country|\bland\b/i],
];

/**
 * What the matcher would add to a line that a person drew: the cleaning under which most answers are taken, tried on all of them.
 * Null where nothing takes more than what stands there.
 */
export function remedyFor(
  line: Line,
  field: TargetField,
  asked: FieldSchema,
  submissions: readonly Submission[],
  context?: TransformContext,
): Remedy | null {
  if (line.source?.from !== 'field' || line.source.field !== questionKey(asked.key)) return null;
  const looked = submissions.slice(0, REMEDY_SAMPLES);
  const values = looked.map(each => answerOf(each, asked.key)).filter((value): value is Json => !isBlank(value));
  if (values.length === 0) return null;
  const fineWith = (cleaning: Step[]): number => {
    const compiled = compileLine({ ...line, cleaning, whenProblem: 'stop', whenBlank: 'leaveOut' }, field);
    return looked.filter(each => {
      const outcome = compiled.outcome(scopeOf(each), context);
      return outcome.state === 'fine';
    }).length;
  };
  const now = fineWith(line.cleaning);
  if (now === values.length) return null;
  const fieldText = `${field.key} ${field.label} ${field.description ?? ''}`;
  const others = otherAnswers(looked, asked.key);
  const isOfParts = asked.kind === 'name' || asked.kind === 'address' || values.some(isJsonObject);
  const wanted = isOfParts ? parts.filter(([, words]) => words.test(fieldText)).map(([part]) => part) : [];
  const candidates = [
    ...wanted.map(part => cleaningFor(asked, values, field, part, others)),
    cleaningFor(asked, values, field, undefined, others),
    // What stands there may only lack what comes behind it.
    [...line.cleaning, ...cleaningFor(asked, cleaned(values, line.cleaning), field, undefined, others)],
  ];
  let best: Remedy | null = null;
  for (const cleaning of candidates) {
    const fine = fineWith(cleaning);
    if (fine > (best?.fine ?? now))
      best = { cleaning, words: compileChain(cleaning).explain.join(', then '), fine, of: values.length, now };
  }
  return best;
}

/** What else was answered, by question. */
function otherAnswers(submissions: readonly Submission[], but: string): OtherAnswers[] {
  const values = new Map<string, Json[]>();
  for (const { fields } of submissions)
    for (const { key, value } of fields)
      if (key !== but && !isBlank(value)) values.set(key, [...(values.get(key) ?? []), value]);
  return [...values].map(([key, said]) => ({ key, values: said }));
}

/** What values are once they are cleaned; those that can't be are left away. */
function cleaned(values: Json[], cleaning: Step[]): Json[] {
  const chain = compileChain(cleaning);
  return values.flatMap(value => {
    const result = chain.run(value);
    return isProblem(result) ? [] : [result];
  });
}
