import { Act } from '../../ui';
import { useWorkbench } from './useWorkbench';

/** Why there is no sample to look at: none yet, or the one that the address names is not here. `none` says what is missing without any. */
export function NoSample({ none }: { none: string }) {
  const { absent, samples, show, stock } = useWorkbench('walk', 'rehearsed');
  if (!absent) return <>{stock.state === 'loading' ? 'Loading samples…' : none}</>;
  if (stock.state === 'loading') return <>Loading this sample…</>;
  return (
    <>
      This sample is older than those loaded, or was removed.{' '}
      {samples.length > 0 && <Act onClick={() => show(0)}>Show newest</Act>}
    </>
  );
}
