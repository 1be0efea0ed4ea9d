import { fareOf, formChanges, readBoth, repairsForForm } from '@grammata/core/drift';
import { newLine, ROUTE_FORMAT, usualTerms, type Line, type RouteDefinition } from '@grammata/core/route';
import { inferSchema, type FieldSchema } from '@grammata/core/schema';
import type { Submission } from '@grammata/core/submission';
import type { Operation, TargetField } from '@grammata/core/target';
import type { Half } from '../reading/draw';
import { formCase } from './forms';

export interface RepairScore {
  breaking: number;
  mended: number;
  /** Those after which all that is needed is still said: a question that is gone, or answered in words, is mended by nobody. */
  sayable: number;
  sayableMended: number;
  notes: string[];
}

const unsayable = new Set(['gone', 'kind', 'option-added']);

/** What a target takes of a question, as strictly as the answers before allow: each is required, of its kind, one of its options. */
function fieldFor({ key, label, kind, options, filled }: FieldSchema, count: number): TargetField {
  const type =
    kind === 'number'
      ? 'number'
      : kind === 'date'
        ? 'date'
        : kind === 'choices'
          ? 'choices'
          : options.length > 0
            ? 'choice'
            : 'text';
  return {
    key,
    pointer: `/${key.replace(/~/g, '~0').replace(/\//g, '~1')}`,
    label,
    type,
    required: filled === count,
    readOnly: false,
    options: type === 'choice' || type === 'choices' ? options.map(each => each.value) : null,
    maxLength: null,
    description: null,
  };
}

/** A route that takes all that was answered before, as it came. */
function routeOf(submissions: readonly Submission[]): { definition: RouteDefinition; operation: Operation } {
  const schema = inferSchema(submissions);
  const fields = schema.fields.filter(each => each.kind !== 'files').map(each => fieldFor(each, schema.count));
  const operation: Operation = { id: 'create', label: 'Create', method: 'POST', path: '/r', fields };
  const lines = fields.map((field, at): Line => ({
    ...newLine(`l${at}`, field.key),
    source: { from: 'field', field: field.key },
  }));
  return {
    operation,
    definition: {
      format: ROUTE_FORMAT,
      name: 'Bench',
      condition: { all: [] },
      calls: [{ id: 'c', targetId: 't', operationId: 'create', lines }],
      terms: usualTerms,
    },
  };
}

/** Of changes of drawn forms that keep submissions from being sent, how many are mended by the first repairs that are proposed. */
export function repairScore(count: number, half: Half, from = 1): RepairScore {
  const score: RepairScore = { breaking: 0, mended: 0, sayable: 0, sayableMended: 0, notes: [] };
  for (let seed = from; score.breaking < count; seed++) {
    const one = formCase(seed, half);
    if (!one || one.wanted.length === 0) continue;
    const [before, after] = readBoth(one.before, one.after);
    const [was, now] = [before, after].map(all => all.flatMap(each => each.submissions)) as [
      Submission[],
      Submission[],
    ];
    const { definition, operation } = routeOf(was);
    const targets = [{ id: 't', name: 'T', baseUrl: 'https://t.example.org', operations: [operation] }];
    // What could not be sent before is no matter of the change.
    if (was.length === 0 || fareOf(definition, targets, was).held > 0 || fareOf(definition, targets, now).held === 0)
      continue;
    score.breaking += 1;
    const isSayable = !one.wanted.some(each => unsayable.has(each.change));
    if (isSayable) score.sayable += 1;
    const parts = { schema: inferSchema(now), samples: now, operationOf: () => operation };
    const repaired = formChanges(before, after).reduce(
      (made, change) => repairsForForm(change, made, parts)[0]?.repair?.definition ?? made,
      definition,
    );
    const fares = [was, now].map(all => fareOf(repaired, targets, all));
    if (fares.every(each => each.held === 0)) {
      score.mended += 1;
      if (isSayable) score.sayableMended += 1;
    } else score.notes.push(`${one.how}: ${fares[1]!.held} of ${fares[1]!.looked}: ${fares[1]!.reasons[0]}`);
  }
  return score;
}
