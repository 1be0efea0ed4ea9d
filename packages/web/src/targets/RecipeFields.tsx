import { recipeFrom, recipeInput, RecipeInput, type TargetInput } from '@grammata/contract';
import { pointerOf, tokensOf, valueAt, type Json } from '@grammata/core/submission';
import { pointRecipe, recipeRoles, type RecipeRole } from '@grammata/core/target';
import { useState } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { wordsFor } from '../api';
import { Act, Fault, PointAt } from '../ui';
import { TextField } from '../ui/form';
import { useListing } from './queries';

const labels: Record<Exclude<keyof RecipeInput, 'isOneTable'>, string> = {
  tables: 'List of tables',
  tableKey: 'Table: key',
  tableLabel: 'Table: label',
  columns: 'Table: list of columns',
  columnKey: 'Column: key',
  columnLabel: 'Column: label',
  columnType: 'Column: type',
  columnRequired: 'Column: required',
  columnOptions: 'Column: options',
  createPath: 'Path to create a record',
  bodyAt: 'Place of the values in the body',
};

const roleWords: Record<RecipeRole, string> = {
  columnKey: 'column key',
  columnLabel: 'column label',
  columnType: 'column type',
  columnRequired: 'required or not',
  columnOptions: 'options',
  tableKey: 'table key',
  tableLabel: 'table label',
};

/** The usual places. */
export const usualPlaces = (): RecipeInput => new RecipeInput();

/** Where a target's list of its tables has what: pointed at in its answer, or as JSON Pointers. */
export function RecipeFields({ targetId, onUsual }: { targetId: string | null; onUsual: () => void }) {
  const { formState } = useFormContext<TargetInput>();
  const [isWritten, setWritten] = useState(false);
  // What a fault opened stays open while it is mended.
  if (formState.errors.recipe && !isWritten) setWritten(true);
  return (
    <fieldset className="border-t border-rule pt-3 sm:col-span-2">
      <legend className="sr-only">Places in its response</legend>
      <p className="pb-2 text-ink-2">
        Where its response lists tables and columns. <Act onClick={onUsual}>Use default places</Act>
      </p>
      <Pointing targetId={targetId} />
      {isWritten ? (
        <>
          <p className="pb-2 text-ink-2">JSON Pointers; those of columns start at a column.</p>
          <div className="grid gap-x-6 gap-y-3 sm:grid-cols-3">
            {(Object.keys(labels) as (keyof typeof labels)[]).map(key => (
              <TextField<TargetInput> key={key} name={`recipe.${key}`} label={labels[key]} look="code" />
            ))}
          </div>
        </>
      ) : (
        <p>
          <Act onClick={() => setWritten(true)}>Write the places as JSON Pointers</Act>
        </p>
      )}
    </fieldset>
  );
}

/** The target's own answer, to be pointed at. */
function Pointing({ targetId }: { targetId: string | null }) {
  const listing = useListing(targetId);
  const { control, getValues, setValue } = useFormContext<TargetInput>();
  const recipe = useWatch({ control, name: 'recipe' }) as RecipeInput;
  const answer = listing.data?.answer ?? null;
  const point = (role: RecipeRole, pointer: string) => {
    const next = pointRecipe(recipeFrom(recipe), role, answer, pointer);
    if ('refusal' in next) return next.refusal;
    setValue('recipe', { ...recipeInput(next), isOneTable: next.isOneTable === true }, { shouldDirty: true });
    return null;
  };
  return (
    <div className="pb-4">
      <p>
        <Act onClick={() => listing.mutate(getValues())} disabled={listing.isPending}>
          {listing.isPending ? 'Sending…' : listing.data ? 'Send again' : 'Send a request and point at the places'}
        </Act>{' '}
        <span className="text-ink-3">
          {targetId === null
            ? 'The request goes to the address above, with the credentials below.'
            : 'The request goes to the saved address.'}
        </span>
      </p>
      {listing.error && <Fault>{wordsFor(listing.error)}</Fault>}
      {listing.data?.fault && <p className="pt-1 text-crimson">! {listing.data.fault}</p>}
      {answer !== null && (
        <PointAt
          name="recipe-role"
          roles={recipeRoles.map(each => ({ value: each, label: roleWords[each] }))}
          first="columnKey"
          document={answer}
          tags={tagsOf(answer, recipe)}
          onPoint={point}
        />
      )}
    </div>
  );
}

/** What the places of an answer are, in the first table and its first column. */
function tagsOf(answer: Json, recipe: RecipeInput): Map<string, string> {
  const tags = new Map<string, string>();
  const firstIn = (at: string): string | null => {
    const held = valueAt(answer, at);
    const [first] = typeof held === 'object' && held !== null ? Object.keys(held) : [];
    return first === undefined ? null : `${at}${pointerOf([first])}`;
  };
  const table = recipe.isOneTable ? recipe.tables : firstIn(recipe.tables);
  if (table === null) return tags;
  if (!recipe.isOneTable) {
    tags.set(recipe.tables, 'list of tables');
    tags.set(`${table}${recipe.tableKey}`, 'key');
    tags.set(`${table}${recipe.tableLabel}`, 'label');
  }
  const column = firstIn(`${table}${recipe.columns}`);
  tags.set(`${table}${recipe.columns}`, 'list of columns');
  if (column === null || tokensOf(column).length === 0) return tags;
  const parts: [keyof RecipeInput, string][] = [
    ['columnLabel', 'label'],
    ['columnType', 'type'],
    ['columnRequired', 'required or not'],
    ['columnOptions', 'options'],
    ['columnKey', 'key'],
  ];
  for (const [part, words] of parts) tags.set(`${column}${String(recipe[part])}`, words);
  return tags;
}
