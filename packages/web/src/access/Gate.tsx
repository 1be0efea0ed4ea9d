import type { SessionView } from '@grammata/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent, type ReactNode } from 'react';
import { api, ApiFault, wordsFor } from '../app/api';
import { Fault, Labelled } from '../ui';

const useSession = () =>
  useQuery({ queryKey: ['session'], queryFn: () => api<SessionView>('/session'), staleTime: Infinity });

/** Lets people in once they are signed in; makes the owner's account at the first start. */
export function Gate({ children }: { children: ReactNode }) {
  const session = useSession();
  if (session.isPending) return null;
  if (session.isError)
    return (
      <Cover title="Grammata">
        <Fault again={() => void session.refetch()}>{wordsFor(session.error)}</Fault>
      </Cover>
    );
  if (session.data.user) return children;
  return session.data.needsSetup ? <Setup /> : <SignIn />;
}

function Cover({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="mx-auto mt-[16vh] max-w-sm px-6">
      <p className="font-serif text-[1.1875rem] font-semibold italic">
        <span className="text-oxide">G</span>rammata
      </p>
      <h1 className="mt-8 border-b border-ink pb-3">{title}</h1>
      {children}
    </main>
  );
}

/** Sends a form and, once it was taken, reads the session again. */
function useEntry(path: string) {
  const client = useQueryClient();
  const [fault, setFault] = useState<unknown>(null);
  const errors = fault instanceof ApiFault ? (fault.problem.errors ?? []) : [];
  const errorOf = (field: string) => errors.find(each => each.field === field)?.message ?? null;
  const submit = (body: unknown) => (event: FormEvent) => {
    event.preventDefault();
    api<SessionView>(path, { method: 'POST', body }).then(
      session => client.setQueryData(['session'], session),
      setFault,
    );
  };
  return { submit, errorOf, fault: fault !== null && errors.length === 0 ? wordsFor(fault) : null };
}

function Setup() {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [token, setToken] = useState('');
  const { submit, errorOf, fault } = useEntry('/setup');
  return (
    <Cover title="The owner’s account">
      <p className="mt-3 font-serif text-[0.9375rem]/6 text-ink-2">
        This is the first start. Whoever fills this in owns this Grammata: the token shows that you may look at the
        machine it runs on.
      </p>
      <form onSubmit={submit({ name, password, token })} className="mt-5 space-y-4">
        <Labelled label="Your name" error={errorOf('name')}>
          {ids => (
            <input
              {...ids}
              className="write"
              value={name}
              onChange={event => setName(event.target.value)}
              autoComplete="name"
              required
              autoFocus
            />
          )}
        </Labelled>
        <Labelled label="A password" hint="At least 10 characters." error={errorOf('password')}>
          {ids => (
            <input
              {...ids}
              className="write"
              type="password"
              value={password}
              onChange={event => setPassword(event.target.value)}
              autoComplete="new-password"
              required
            />
          )}
        </Labelled>
        <Labelled
          label="The token of this start"
          hint="Printed on the console, and in the file setup-token of the data folder."
          error={errorOf('token')}
        >
          {ids => (
            <input
              {...ids}
              className="write font-mono text-small"
              value={token}
              onChange={event => setToken(event.target.value)}
              autoComplete="one-time-code"
              spellCheck={false}
              required
            />
          )}
        </Labelled>
        {fault && <Fault>{fault}</Fault>}
        <button className="press">Make the account</button>
      </form>
    </Cover>
  );
}

function SignIn() {
  const [password, setPassword] = useState('');
  const { submit, errorOf, fault } = useEntry('/session');
  return (
    <Cover title="Sign in">
      <form onSubmit={submit({ password })} className="mt-5 space-y-4">
        <Labelled label="Password" error={errorOf('password')}>
          {ids => (
            <input
              {...ids}
              className="write"
              type="password"
              value={password}
              onChange={event => setPassword(event.target.value)}
              autoComplete="current-password"
              required
              autoFocus
            />
          )}
        </Labelled>
        {fault && <Fault>{fault}</Fault>}
        <button className="press">Sign in</button>
      </form>
    </Cover>
  );
}
