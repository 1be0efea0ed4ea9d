import { useRouteError } from 'react-router';
import { Press } from '../ui';

/** What browsers say when a part of the interface can't be loaded: after an update its parts have other names. */
export const isChunkMissing = (error: unknown): boolean =>
  error instanceof Error &&
  /dynamically imported module|importing a module script failed|failed to load module script|error loading dynamically/i.test(
    error.message,
  );

/** Shown when a part of the interface could not be had. */
function NotHad() {
  return (
    <main className="mx-auto mt-[18vh] max-w-prose px-6">
      <h1>This page could not be loaded.</h1>
      <p className="mt-2 mb-4 font-serif text-lead text-ink-2">
        Grammata was updated after you opened this tab, or the server can’t be reached. Saved data is safe.
      </p>
      <Press onClick={() => location.reload()}>Reload</Press>
    </main>
  );
}

/** Shown when a page of the interface itself failed. */
export function Broken() {
  const error = useRouteError();
  if (isChunkMissing(error)) return <NotHad />;
  return (
    <main className="mx-auto mt-[18vh] max-w-prose px-6">
      <h1>This page failed.</h1>
      <p className="mt-2 font-serif text-lead text-ink-2">
        Saved data is safe. Reload the page. If it fails again, report this error:
      </p>
      <p className="wire my-4 border-y border-rule py-3">{error instanceof Error ? error.message : 'unknown'}</p>
      <Press onClick={() => location.reload()}>Reload</Press>
    </main>
  );
}
