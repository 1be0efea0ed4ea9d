import { Act } from '../../ui';
import type { Workbench } from './workbench';

/** Why there is no sample to look at: none yet, or the one that the address names is not here. `none` says what is missing without any. */
export function NoSample({
  workbench: { absent, stock, samples, show },
  none,
}: {
  workbench: Workbench;
  none: string;
}) {
  if (!absent) return <>{none}</>;
  if (stock.state === 'loading') return <>Bringing this sample…</>;
  return (
    <>
      This sample is not here: it is older than those that are looked at, or was removed.{' '}
      {samples.length > 0 && <Act onClick={() => show(0)}>Show the newest</Act>}
    </>
  );
}
