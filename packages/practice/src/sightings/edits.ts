import type { ApiEdit } from '../changing';

/** What is taken of a sighting, by name, with its type in GraphQL's schema language. */
const INPUT = /input SightingInput \{[^}]*\}/;
const STAGE = /enum Stage \{[^}]*\}/;
/** A name as GraphQL has them (October 2021, §2.1.9). */
const NAME = /^[A-Z_]\w*$/i;
const FIRST_STAGE = 'EGG';

/** The fields of a sighting that may be changed. */
export const sightingFields = (text: string): string[] =>
  (INPUT.exec(text)?.[0] ?? '').split('\n').flatMap(line => /^\s+(\w+):/.exec(line)?.[1] ?? []);

/** True for what could be done to this schema: only a field with options has one to be called otherwise. */
export const isSightingEdit = ({ field, what, to }: ApiEdit, text: string): boolean =>
  sightingFields(text).includes(field) &&
  (what === 'required' || what === 'retired' || NAME.test(to)) &&
  (what !== 'option-renamed' || field === 'stage');

/** The schema after all that was done to it, in the schema language. */
export const editedSchema = (text: string, edits: readonly ApiEdit[]): string =>
  edits.reduce((now, { field, what, to }) => {
    const name = nameOf(field, edits);
    const onField = (edit: (line: string) => string | null) =>
      now.replace(INPUT, block =>
        block
          .split('\n')
          .flatMap(line => (new Set([field, name]).has(/^\s+(\w+):/.exec(line)?.[1] ?? '') ? (edit(line) ?? []) : line))
          .join('\n'),
      );
    switch (what) {
      case 'required':
        return onField(line => `${line.split('=')[0]!.trimEnd().replace(/!$/, '')}!`);
      case 'renamed':
        return onField(line => line.replace(/^(\s+)\w+/, `$1${to}`));
      case 'retired':
        return onField(() => null);
      case 'option-renamed':
        return now.replace(STAGE, block => block.replace(FIRST_STAGE, to));
      case 'moved':
        return now.replaceAll('recordSighting', to);
    }
  }, text);

const nameOf = (field: string, edits: readonly ApiEdit[]): string =>
  edits.findLast(each => each.field === field && each.what === 'renamed')?.to ?? field;

/** A sighting as it is sent now, as it was sent first. */
export function sightingAsBefore(input: Record<string, unknown>, edits: readonly ApiEdit[]): Record<string, unknown> {
  const stage = edits.findLast(each => each.what === 'option-renamed')?.to;
  return Object.fromEntries(
    Object.entries(input).map(([key, value]) => {
      const field = edits.find(each => each.what === 'renamed' && nameOf(each.field, edits) === key)?.field ?? key;
      return [field, field === 'stage' && value === stage ? FIRST_STAGE : value];
    }),
  );
}

/** What a sighting's stage is called now. */
export const stageAfter = (stage: string | null, edits: readonly ApiEdit[]): string | null =>
  stage === FIRST_STAGE ? (edits.findLast(each => each.what === 'option-renamed')?.to ?? stage) : stage;

/** What recording one is called now. */
export const recordingName = (edits: readonly ApiEdit[]): string =>
  edits.findLast(each => each.what === 'moved')?.to ?? 'recordSighting';
