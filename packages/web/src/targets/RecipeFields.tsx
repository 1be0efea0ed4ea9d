import { RecipeInput, type TargetInput } from '@grammata/contract';
import { Act } from '../ui';
import { TextField } from '../ui/form';

const labels: Record<keyof RecipeInput, string> = {
  tables: 'List of tables',
  tableKey: 'Table: key',
  tableLabel: 'Table: label',
  columns: 'Table: list of columns',
  columnKey: 'Column: key',
  columnLabel: 'Column: label',
  columnType: 'Column: type',
  columnRequired: 'Column: required',
  columnOptions: 'Column: options',
  createPath: 'A record is made at',
  bodyAt: 'Values stand in the body at',
};

/** The usual places. */
export const usualPlaces = (): RecipeInput => new RecipeInput();

/** Where a target's list of its tables has what: JSON Pointers into its answer. */
export function RecipeFields({ onUsual }: { onUsual: () => void }) {
  return (
    <fieldset className="border-t border-rule pt-3 sm:col-span-2">
      <legend className="sr-only">Where its answer has what</legend>
      <p className="pb-2 text-ink-2">
        Where its answer has what, as JSON Pointers; those of columns start at a column.{' '}
        <Act onClick={onUsual}>Take the usual places</Act>
      </p>
      <div className="grid gap-x-6 gap-y-3 sm:grid-cols-3">
        {(Object.keys(labels) as (keyof RecipeInput)[]).map(key => (
          <TextField<TargetInput> key={key} name={`recipe.${key}`} label={labels[key]} look="code" />
        ))}
      </div>
    </fieldset>
  );
}
