import type { TargetField } from '../target';

/** A text field of a target's body, as tests need one; `more` says what is special about it. */
export const targetField = (key: string, more: Partial<TargetField> = {}): TargetField => ({
  key,
  pointer: `/${key}`,
  label: key,
  type: 'text',
  required: false,
  readOnly: false,
  options: null,
  maxLength: null,
  description: null,
  ...more,
});
