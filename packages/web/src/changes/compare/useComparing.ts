import type { Comparing, Side } from '@grammata/core/drift';
import { useEffect, useRef, useState } from 'react';
import type { Answer, Question } from './compare.worker';

/** Two sides held against each other, off the main thread; null until both are there and that is done. */
export function useComparing(before: Side, after: Side): { compared: Comparing | null; fault: string | null } {
  const worker = useRef<Worker | null>(null);
  const number = useRef(0);
  const [answer, setAnswer] = useState<Answer | null>(null);
  useEffect(() => {
    const opened = new Worker(new URL('./compare.worker.ts', import.meta.url), { type: 'module' });
    opened.onmessage = ({ data }: MessageEvent<Answer>) => data.number === number.current && setAnswer(data);
    opened.onerror = event => setAnswer({ number: number.current, fault: event.message });
    worker.current = opened;
    return () => opened.terminate();
  }, []);
  const isWhole = before.text.trim() !== '' && after.text.trim() !== '';
  useEffect(() => {
    number.current += 1;
    if (isWhole) worker.current?.postMessage({ number: number.current, before, after } satisfies Question);
  }, [before, after, isWhole]);
  return {
    compared: isWhole && answer && 'compared' in answer ? answer.compared : null,
    fault: isWhole && answer && 'fault' in answer ? answer.fault : null,
  };
}
