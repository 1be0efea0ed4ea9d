import type { FieldKind, Json } from '@grammata/core/submission';
import type { Step, TransformContext } from '@grammata/core/transform';
import type { Offered } from '../../workbench';

/** What a list of steps works on. */
export interface StepListProps {
  references: Offered[];
  steps: Step[];
  onChange: (steps: Step[]) => void;
  /** What the first step is given. */
  kind: FieldKind;
  raw: Json;
  context: TransformContext;
}
