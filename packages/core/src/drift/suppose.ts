import { asText, type Field, type Json, type Submission } from '../submission';
import type { Operation, TargetField } from '../target';

/** What may be supposed of a form, and of a target: before anybody does it. */
export const formSuppositions = {
  gone: 'is left blank, or not asked any more',
  replaced: 'comes under another key',
  'option-renamed': 'renames an option',
  'single-to-list': 'takes several answers',
  text: 'is answered with words',
} as const;

/** What may be supposed of all of a form: that it sends what somebody has an example of, as of its next generation. */
export const wholeSuppositions = { message: 'comes as in a message that I have' } as const;
export type WholeSupposition = keyof typeof wholeSuppositions;
export type FormSupposition = keyof typeof formSuppositions;

export const targetSuppositions = {
  required: 'is required',
  gone: 'is removed',
  renamed: 'is renamed',
  'option-renamed': 'renames an option',
  shorter: 'takes ten characters only',
  number: 'takes numbers only',
} as const;
export type TargetSupposition = keyof typeof targetSuppositions;

/** An option, where one is meant: the one that is renamed. */
const OTHERWISE = ' (new)';

/** Submissions as they would come, if a question were otherwise. */
export function supposedOfForm(
  samples: readonly Submission[],
  question: string,
  what: FormSupposition,
  option = '',
): Submission[] {
  const on = (edit: (field: Field) => Field[]) =>
    samples.map(each => ({
      ...each,
      fields: each.fields.flatMap(field => (field.key === question ? edit(field) : [field])),
    }));
  const withoutFiles = (all: Submission[]) =>
    all.map(each => ({ ...each, files: each.files.filter(file => file.field !== question) }));
  const renamed = (value: Json): Json =>
    Array.isArray(value) ? value.map(renamed) : asText(value) === option ? `${option}${OTHERWISE}` : value;
  switch (what) {
    case 'gone':
      return withoutFiles(on(() => []));
    case 'replaced':
      return withoutFiles(on(field => [{ ...field, key: `${field.key}${OTHERWISE}` }]));
    case 'option-renamed':
      return on(field => [{ ...field, value: renamed(field.value) }]);
    case 'single-to-list':
      return on(field => [
        { ...field, kind: 'choices', value: Array.isArray(field.value) ? field.value : [field.value, 'Another'] },
      ]);
    case 'text':
      return on(field => [{ ...field, kind: 'text', value: 'in words of their own' }]);
  }
}

/** Operations as they would be offered, if a field of one were otherwise. */
export const supposedOfTarget = (
  operations: readonly Operation[],
  operationId: string,
  key: string,
  what: TargetSupposition,
  option = '',
): Operation[] =>
  operations.map(operation =>
    operation.id === operationId
      ? {
          ...operation,
          fields: operation.fields.flatMap(field => (field.key === key ? supposedField(field, what, option) : [field])),
        }
      : operation,
  );

function supposedField(field: TargetField, what: TargetSupposition, option: string): TargetField[] {
  switch (what) {
    case 'required':
      return [{ ...field, required: true }];
    case 'gone':
      return [];
    case 'renamed':
      return [{ ...field, key: `${field.key}${OTHERWISE}`, pointer: `${field.pointer}${OTHERWISE}` }];
    case 'option-renamed':
      return [
        { ...field, options: field.options?.map(each => (each === option ? `${each}${OTHERWISE}` : each)) ?? null },
      ];
    case 'shorter':
      return [{ ...field, maxLength: 10 }];
    case 'number':
      return [{ ...field, type: 'number', options: null }];
  }
}
