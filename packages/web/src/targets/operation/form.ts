import type { OperationFieldInput, OperationInput } from '@grammata/contract';
import { useFormContext, useWatch, type UseFormReturn } from 'react-hook-form';

/**
 * The operation as the form sees it, its fields and its answer opaque: values of any JSON in them are deeper than the types of paths
 * can follow.
 */
export interface OperationForm extends Pick<OperationInput, 'id' | 'label' | 'method' | 'path' | 'body'> {
  fields: object[];
  answer?: object[];
}

/** The fields in the form, and how to set them. */
export function useFields(): [OperationFieldInput[], (next: readonly object[]) => void, UseFormReturn<OperationForm>] {
  const form = useFormContext<OperationForm>();
  const fields = useWatch({ control: form.control, name: 'fields' }) as OperationFieldInput[];
  return [fields, next => form.setValue('fields', [...next], { shouldDirty: true }), form];
}
