import { useRouteError } from 'react-router';
import { Press } from '../ui';

/** Shown when a page of the interface itself failed. */
export function Broken() {
  const error = useRouteError();
  return (
    <main className="mx-auto mt-[18vh] max-w-prose px-6">
      <h1>This page broke.</h1>
      <p className="mt-2 font-serif text-lead text-ink-2">
        Nothing that was stored is touched. Load it again; if it breaks again, this line helps whoever looks into it:
      </p>
      <p className="wire my-4 border-y border-rule py-3">{error instanceof Error ? error.message : 'unknown'}</p>
      <Press onClick={() => location.reload()}>Load again</Press>
    </main>
  );
}
