import { FormInput, QuestionInput } from '@grammata/contract';
import { Act } from '../ui';
import { InputForm, TextField, useInput } from '../ui/form';

interface NamingProps {
  name: string;
  /** What its builder calls it. */
  own: string;
  /** Stores the name; an empty one gives it its own again. */
  save: (name: string) => Promise<unknown>;
  onDone: () => void;
}

/** Gives something a name that people understand; the one it came with stays beside it. */
function Naming<T extends FormInput | QuestionInput>({
  label,
  input,
  values,
  name,
  own,
  save,
  onDone,
}: NamingProps & { label: string; input: new () => T; values: T }) {
  const store = async (next: string) => {
    await save(next);
    onDone();
  };
  const of = useInput({ input, values, save: typed => store(typed.name ?? '') });
  return (
    <InputForm
      of={of}
      label={`Rename: ${own}`}
      deed="Rename"
      onCancel={onDone}
      className="my-1 space-y-2 border-y border-rule bg-raised px-3 py-2"
      more={name !== own && <Act onClick={() => void store('')}>Reset name to “{own}”</Act>}
    >
      <TextField<FormInput | QuestionInput>
        name="name"
        label={label}
        hint={`In the builder: “${own}”. Search finds both names.`}
        autoFocus
      />
    </InputForm>
  );
}

export const FormNaming = (props: NamingProps) => (
  <Naming {...props} label="Name of the form" input={FormInput} values={{ name: props.name }} />
);

export const QuestionNaming = ({ questionKey, ...props }: NamingProps & { questionKey: string }) => (
  <Naming
    {...props}
    label="Name of the question"
    input={QuestionInput}
    values={{ key: questionKey, name: props.name }}
  />
);
