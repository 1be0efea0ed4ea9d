import type { SessionView } from '@grammata/contract';
import { queryOptions, useQuery } from '@tanstack/react-query';
import { lazy, Suspense, type ReactNode } from 'react';
import { api, wordsFor, keys } from '../api';
import { Fault } from '../ui';
import { Cover } from './Cover';

/** Loaded only by those who are not in yet. */
const Setup = lazy(async () => ({ default: (await import('./Entry')).Setup }));
const SignIn = lazy(async () => ({ default: (await import('./Entry')).SignIn }));

export const sessionQuery = queryOptions({
  queryKey: keys.session,
  queryFn: () => api<SessionView>('/session'),
  staleTime: Infinity,
});

/** Lets people in once they are signed in; makes the owner's account at the first start. */
export function Gate({ children }: { children: ReactNode }) {
  const session = useQuery(sessionQuery);
  if (session.isPending) return null;
  if (session.isError)
    return (
      <Cover title="Grammata">
        <Fault again={() => void session.refetch()}>{wordsFor(session.error)}</Fault>
      </Cover>
    );
  if (session.data.user) return children;
  return <Suspense fallback={null}>{session.data.needsSetup ? <Setup /> : <SignIn />}</Suspense>;
}
