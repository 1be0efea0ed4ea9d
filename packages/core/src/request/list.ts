import { referenceOf, referredTo, type Scope } from '../scope';
import { isBlank, setOwn, type Json, type JsonObject } from '../submission';
import { fieldsOf, type ListEntry, type PartSource } from '../route';
import { compileChain, defaultContext, isProblem, type Problem, type TransformContext } from '../transform';

/** What one part of an entry gives: a value, or why it can't be had. */
type PartValue = (scope: Scope, context: TransformContext) => Json | Problem;

/** A list as its entries say, for a scope; or what is wrong with one of its parts. */
export type ListOf = (scope: Scope, context?: TransformContext) => Json[] | Problem;

interface CompiledPart {
  name: string;
  /** True where what it says decides whether there is an entry: what is always the same does not. */
  counts: boolean;
  valueFor: PartValue;
}

/**
 * Compiles a list that is written part by part. An entry of which nobody answered anything is left out, whatever stands in it
 * beside; of one that is there, blank parts of an object are left out, and cells of a row are empty.
 * @param compile how the source of one part is compiled
 */
export function compileList(
  entries: readonly ListEntry[],
  compile: (source: PartSource) => (scope: Scope) => Json,
): ListOf {
  const compiled = entries.map(entry => ({
    entry,
    parts: entry.parts.map(({ name, source, cleaning }): CompiledPart => {
      const chain = compileChain(cleaning);
      const from = source ? compile(source) : () => null;
      return {
        name,
        counts: counts(source, entry),
        valueFor: (scope, context) => {
          const raw = from(scope);
          const around = chain.looksAround ? { ...context, answer: (key: string) => referredTo(scope, key) } : context;
          return isBlank(raw) && chain.faults.length === 0 ? raw : chain.run(raw, around);
        },
      };
    }),
  }));
  return (scope, context = defaultContext) => {
    const list: Json[] = [];
    for (const { entry, parts } of compiled)
      for (const each of scopesFor(entry, scope)) {
        const values: Json[] = [];
        for (const { valueFor } of parts) {
          const value = valueFor(each, context);
          if (isProblem(value)) return value;
          values.push(value);
        }
        if (parts.some(part => part.counts) && parts.every((part, at) => !part.counts || isBlank(values[at]))) continue;
        const made = written(entry.as, parts, values);
        if (made !== undefined) list.push(made);
      }
    return list;
  };
}

/** Of an entry for each item, what the item says decides; of any other, what was answered. */
function counts(source: PartSource | null, { each, parts }: ListEntry): boolean {
  const saysOfItem = (of: PartSource | null) => fieldsOf(of).some(key => referenceOf(key).to === 'item');
  if (each && parts.some(part => saysOfItem(part.source))) return saysOfItem(source);
  return source?.from !== 'constant';
}

/** An entry is written once, or for each item of an answer. */
function scopesFor({ each }: ListEntry, scope: Scope): Scope[] {
  if (!each) return [scope];
  const answer = referredTo(scope, each);
  const items = Array.isArray(answer) ? answer : isBlank(answer) ? [] : [answer!];
  return items.filter(item => !isBlank(item)).map((value, index) => ({ ...scope, item: { value, number: index + 1 } }));
}

function written(as: ListEntry['as'], parts: readonly CompiledPart[], values: Json[]): Json | undefined {
  if (as === 'row') return values.map(value => (isBlank(value) ? '' : value));
  if (as === 'value') return isBlank(values[0]) ? undefined : values[0];
  const object: JsonObject = {};
  parts.forEach(({ name }, at) => {
    if (!isBlank(values[at])) setOwn(object, name, values[at]!);
  });
  return object;
}
