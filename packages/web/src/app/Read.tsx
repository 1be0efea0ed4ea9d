import type { ReactNode } from 'react';
import { Fault, Sheet } from '../ui';
import { ApiFault, wordsFor } from '../api';

/** A query as far as it is shown. */
interface Asked<T> {
  data: T | undefined;
  error: unknown;
  refetch(): unknown;
}

/**
 * What a place is about: shown as soon as it is there, and kept while it is read anew; until then it says that it is being read,
 * or why it can't be had, with a way to try again.
 */
export function Read<T>({
  title,
  query,
  children,
}: {
  title: string;
  query: Asked<T>;
  children: (data: T) => ReactNode;
}) {
  // What was removed meanwhile is not shown as if it were there.
  const isGone = query.error instanceof ApiFault && query.error.problem.status === 404;
  if (query.data !== undefined && !isGone)
    return (
      <>
        {Boolean(query.error) && (
          <div className="px-6">
            <Fault again={() => void query.refetch()}>This may be out of date. {wordsFor(query.error)}</Fault>
          </div>
        )}
        {children(query.data)}
      </>
    );
  return (
    <Sheet title={title} aside={null}>
      {query.error ? <Fault again={() => void query.refetch()}>{wordsFor(query.error)}</Fault> : <Reading />}
    </Sheet>
  );
}

/** Says that something is being read; not at once: what is there in a moment needs no words. */
export const Reading = () => (
  <p role="status" className="late mt-4 font-serif text-ink-3">
    Loading…
  </p>
);
