import type { Comparing, Side } from '@grammata/core/drift';
import { useEffect } from 'react';
import { useAsker } from '../../workers';
import type { Sides } from './compare.worker';

const begin = () => new Worker(new URL('./compare.worker.ts', import.meta.url), { type: 'module' });

/** Two sides held against each other, off the main thread; null until both are there and that is done. */
export function useComparing(before: Side, after: Side): { compared: Comparing | null; fault: string | null } {
  const { asker, reply } = useAsker<never, Sides, Comparing>(begin);
  const isWhole = before.text.trim() !== '' && after.text.trim() !== '';
  useEffect(() => {
    if (isWhole) asker.current?.ask({ before, after });
  }, [asker, before, after, isWhole]);
  return {
    compared: isWhole && reply && 'answer' in reply ? reply.answer : null,
    fault: isWhole && reply && 'fault' in reply ? reply.fault : null,
  };
}
