import { withSegment, type Operation } from '@grammata/core/target';
import { useFormContext, useWatch } from 'react-hook-form';
import { Act } from '../../ui';
import type { OperationForm } from './form';

/** The parts of a path: which of them stay and which vary is said by pressing them. */
export function PathParts() {
  const { control, setValue, getValues } = useFormContext<OperationForm>();
  const path = useWatch({ control, name: 'path' });
  const parts = path.split('/');
  const turn = (index: number) => {
    const next = withSegment(getValues() as Operation, index);
    setValue('path', next.path, { shouldDirty: true });
    setValue('fields', next.fields, { shouldDirty: true });
  };
  if (parts.filter(Boolean).length === 0) return null;
  return (
    <p className="text-small text-ink-2">
      {parts.map((part, index) =>
        part === '' ? null : (
          <span key={`${index} ${part}`} className="mr-4 whitespace-nowrap">
            <code className="font-mono">{part}</code>{' '}
            <Act onClick={() => turn(index)}>{/^\{[^{}]+\}$/.test(part) ? 'varies' : 'stays'}</Act>
          </span>
        ),
      )}
      <span className="text-ink-3">Press a segment to switch it between fixed and variable.</span>
    </p>
  );
}
