import { IntakeInput } from '@grammata/contract';
import { InputForm, TextField, useInput } from '../ui/form';
import { useCreateIntake } from './queries';

/** Asks for the name of an intake, and creates it. */
export function NewIntake({
  onMade,
  onCancel,
  className,
}: {
  onMade: (id: string) => unknown;
  onCancel?: () => void;
  className: string;
}) {
  const create = useCreateIntake();
  const of = useInput({
    input: IntakeInput,
    values: new IntakeInput(),
    keptAs: 'intake.new',
    save: async ({ name }) => onMade((await create.mutateAsync(name)).id),
  });
  return (
    <InputForm of={of} label="New intake" deed="Create intake" onCancel={onCancel} className={className}>
      <TextField<IntakeInput>
        name="name"
        label="Name"
        look="lead"
        placeholder="Field team forms"
        maxLength={80}
        autoFocus
      />
    </InputForm>
  );
}
