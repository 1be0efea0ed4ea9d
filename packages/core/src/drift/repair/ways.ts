import Papa from 'papaparse';
import { remedyFor } from '../../match';
import type { Call, Line, RouteDefinition } from '../../route';
import type { FormSchema } from '../../schema';
import { questionKey } from '../../scope';
import { asText, canonical, isBlank, type Json, type Submission } from '../../submission';
import type { Operation, TargetField } from '../../target';
import type { Step } from '../../transform';

/** A definition that does what a changed form or target asks for, and what was done to it, in words. */
export interface Repair {
  definition: RouteDefinition;
  words: string[];
}

/**
 * Ways to mend a route. usual: the one that there is. joined, first, each: all answers in one text, one of them, or a call for each. question,
 * default, value: a required field gets the likeliest question, what the target says that it assumes, or what a person says. yesFirst, yesSecond:
 * which of two words true stands for.
 */
export const repairWays = [
  'usual',
  'joined',
  'first',
  'each',
  'question',
  'default',
  'value',
  'yesFirst',
  'yesSecond',
] as const;

/** One way to mend a route. */
export interface RepairWay {
  way: (typeof repairWays)[number];
  /** What sets it apart from the others. */
  label: string;
  /** What a person has to say for it: the value of a target's field, with its options where it has some; null for nothing. */
  asks: { to: string; options: string[] | null } | null;
  /** Null while that is not said. */
  repair: Repair | null;
}

/** What a repair is made with: the form as it is now, its newest submissions, and what the targets offer now. */
export interface RepairParts {
  schema: FormSchema;
  /** Such as came since the change. */
  samples: readonly Submission[];
  operationOf(call: Pick<Call, 'targetId' | 'operationId'>): Operation | null;
  /** What a person says for a way that asks. */
  value?: Json;
}

export const quoted = (text: string) => `“${text}”`;

/** The one way to mend something; none where there is no repair. */
export const onlyWay = (repair: Repair | null): RepairWay[] =>
  repair ? [{ way: 'usual', label: 'Repair', asks: null, repair }] : [];

/** A step that gives one value for another, and leaves any other as it is. */
export const translating = (pairs: [from: string, to: string][]): Step => ({
  id: 'lookup.table',
  params: { table: Papa.unparse(pairs), otherwise: 'keep' },
});

/** True where a line has a step already: what is mended once is not mended again. */
export const has = ({ cleaning }: Line, step: Step): boolean =>
  cleaning.some(each => canonical(each as unknown as Json) === canonical(step as unknown as Json));

/** A line with the cleaning under which most of its answers are taken, and what it is said to do; null where it takes none more. */
export function cleaned(
  line: Line,
  field: TargetField | undefined,
  { schema, samples }: RepairParts,
  { terms }: RouteDefinition,
): { line: Line; words: string } | null {
  const key = line.source?.from === 'field' ? line.source.field : null;
  const asked = schema.fields.find(each => questionKey(each.key) === key);
  const remedy = field && asked ? remedyFor(line, field, asked, samples, { timeZone: terms.timeZone }) : null;
  if (!remedy) return null;
  const { cleaning, words, fine, of, now } = remedy;
  return {
    line: { ...line, cleaning },
    words: `${line.to}: ${words}; ${fine} of ${of} answers are valid, ${now} before.`,
  };
}

/** A definition in which some lines give one value where they would give nothing. */
export const filledWhenBlank = (
  definition: RouteDefinition,
  lines: readonly Line[],
  fallback: Json,
): RouteDefinition => ({
  ...definition,
  calls: definition.calls.map(call => ({
    ...call,
    lines: call.lines.map(line => (lines.includes(line) ? { ...line, whenBlank: 'fallback', fallback } : line)),
  })),
});

/** A value that a person typed, as a field takes it. */
function typed(value: Json, { type }: TargetField): Json {
  if (typeof value !== 'string') return value;
  const isNumber = type === 'number' || type === 'integer';
  if (isNumber && value.trim() !== '' && Number.isFinite(Number(value))) return Number(value);
  return type === 'boolean' && /^(true|false)$/.test(value) ? value === 'true' : value;
}

/** The ways to fill a field with one value: what the target says that it assumes, and what a person says. */
export function valueWays(
  field: TargetField,
  { value }: RepairParts,
  fill: (value: Json, shown: string) => Repair,
): RepairWay[] {
  const shown = (of: Json) => quoted(asText(of));
  const assumed = field.default;
  const said = value === undefined || isBlank(value) ? null : typed(value, field);
  return [
    ...(assumed === undefined
      ? []
      : [
          {
            way: 'default' as const,
            label: `The target’s default, ${shown(assumed)}`,
            asks: null,
            repair: fill(assumed, shown(assumed)),
          },
        ]),
    {
      way: 'value',
      label: 'Always the same value',
      asks: { to: field.key, options: field.options },
      repair: said === null ? null : fill(said, shown(said)),
    },
  ];
}
