import type { RehearsalSummary, RouteParts, Sample } from '@grammata/core/rehearse';
import { useEffect, useRef, useState } from 'react';
import type { Answer, Question } from './rehearsal.worker';

/** The rehearsal of a route over all samples, made off the main thread; null until the first is there. */
export function useRehearsal(route: RouteParts | null, samples: Sample[]): RehearsalSummary | null {
  const [summary, setSummary] = useState<RehearsalSummary | null>(null);
  const worker = useRef<Worker | null>(null);
  const latest = useRef(0);

  useEffect(() => {
    const made = new Worker(new URL('./rehearsal.worker.ts', import.meta.url), { type: 'module' });
    made.onmessage = ({ data }: MessageEvent<Answer>) => {
      if (data.number === latest.current) setSummary(data.summary);
    };
    worker.current = made;
    return () => made.terminate();
  }, []);

  useEffect(() => {
    worker.current?.postMessage({ samples } satisfies Question);
  }, [samples]);

  useEffect(() => {
    if (!route) return;
    latest.current += 1;
    worker.current?.postMessage({ route, number: latest.current } satisfies Question);
  }, [route, samples]);

  return summary;
}
