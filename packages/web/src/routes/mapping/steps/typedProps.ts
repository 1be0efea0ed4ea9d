import type { ParameterField } from '@grammata/core/transform';

/** A parameter that is typed by hand. */
export interface TypedProps {
  ask: ParameterField;
  value: unknown;
  onChange: (value: unknown) => void;
}
