import { usualRecipe, type DiscoveryRecipe } from '@grammata/core/target';
import { IsBoolean, Matches, MaxLength } from 'class-validator';
import { IsPointer } from './isPointer';
import { MayBeLeftOut } from './mayBeLeftOut';

/** Where a target's list of its tables has what. Those of `column…` start at one column. */
export class RecipeInput {
  @IsPointer() tables: string = usualRecipe.tables;
  /** True where what stands there is one table, without a name of its own. */
  @MayBeLeftOut() @IsBoolean() isOneTable?: boolean;
  @IsPointer() tableKey: string = usualRecipe.tableKey;
  @IsPointer() tableLabel: string = usualRecipe.tableLabel;
  @IsPointer() columns: string = usualRecipe.columns;
  @IsPointer() columnKey: string = usualRecipe.column.key;
  @IsPointer() columnLabel: string = usualRecipe.column.label;
  @IsPointer() columnType: string = usualRecipe.column.type;
  @IsPointer() columnRequired: string = usualRecipe.column.required;
  @IsPointer() columnOptions: string = usualRecipe.column.options;
  /** Where a record is made, below the base address; `{table}` stands for the table. */
  @Matches(/^\/\S*$/, { message: 'Start the path with “/”.' }) @MaxLength(200) createPath: string =
    usualRecipe.create.path;
  /** Where the values stand in the body. */
  @IsPointer() bodyAt: string = usualRecipe.create.bodyAt;
}

/** The recipe as it is followed. */
export const recipeFrom = (input: RecipeInput): DiscoveryRecipe => ({
  ...usualRecipe,
  tables: input.tables,
  ...(input.isOneTable && { isOneTable: true }),
  tableKey: input.tableKey,
  tableLabel: input.tableLabel,
  columns: input.columns,
  column: {
    ...usualRecipe.column,
    key: input.columnKey,
    label: input.columnLabel,
    type: input.columnType,
    required: input.columnRequired,
    options: input.columnOptions,
  },
  create: { method: 'POST', path: input.createPath, bodyAt: input.bodyAt },
});

/** The same the other way round, to be edited. */
export const recipeInput = ({
  tables,
  isOneTable,
  tableKey,
  tableLabel,
  columns,
  column,
  create,
}: DiscoveryRecipe): RecipeInput => ({
  tables,
  ...(isOneTable && { isOneTable }),
  tableKey,
  tableLabel,
  columns,
  columnKey: column.key,
  columnLabel: column.label,
  columnType: column.type,
  columnRequired: column.required,
  columnOptions: column.options,
  createPath: create.path,
  bodyAt: create.bodyAt,
});
