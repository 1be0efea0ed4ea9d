import { SetupInput, SignInInput, type SessionView } from '@grammata/contract';
import { useQueryClient } from '@tanstack/react-query';
import { api, keys } from '../api';
import { InputForm, SecretField, TextField, useInput } from '../ui/form';
import { Cover } from './Cover';

/** What is shown once the server took the form. */
function useEntry(path: string) {
  const client = useQueryClient();
  return async (body: unknown) => {
    const session = await api<SessionView>(path, { method: 'POST', body });
    client.setQueryData(keys.session, session);
  };
}

/** The owner's account, at the first start. */
export function Setup() {
  const enter = useEntry('/setup');
  const of = useInput({ input: SetupInput, values: new SetupInput(), save: enter });
  return (
    <Cover title="The owner’s account">
      <p className="mt-3 font-serif text-reading text-ink-2">
        First start. Create the owner’s account. The setup token proves that you have access to this machine.
      </p>
      <InputForm of={of} label="The owner’s account" deed="Create account" className="mt-5 space-y-4">
        <TextField<SetupInput> name="name" label="Your name" autoComplete="name" autoFocus />
        <SecretField<SetupInput>
          name="password"
          isText
          label="Password"
          hint="At least 10 characters."
          isStored={false}
          autoComplete="new-password"
        />
        <TextField<SetupInput>
          name="token"
          label="Setup token"
          hint="Printed on the console, and stored in the file setup-token in the data folder."
          look="code"
          autoComplete="one-time-code"
          spellCheck={false}
        />
      </InputForm>
    </Cover>
  );
}

export function SignIn() {
  const enter = useEntry('/session');
  const of = useInput({ input: SignInInput, values: new SignInInput(), save: enter });
  return (
    <Cover title="Sign in">
      <InputForm of={of} label="Sign in" deed="Sign in" className="mt-5 space-y-4">
        <SecretField<SignInInput>
          name="password"
          isText
          label="Password"
          hint=""
          isStored={false}
          autoComplete="current-password"
          autoFocus
        />
      </InputForm>
    </Cover>
  );
}
