import { useCallback, useEffect, useRef, useState } from 'react';
import { openAsker, type Asker, type Replied } from './asking';

/**
 * A worker of this page, and what it replied last. Begun by `begin`, ended with the page; `anew` begins another, where one failed.
 * `times` tells one worker from the next: what was told to one is not known to the other.
 */
export function useAsker<Told, Asked, Answer>(begin: () => Worker) {
  const asker = useRef<Asker<Told, Asked> | null>(null);
  const [reply, setReply] = useState<Replied<Asked, Answer> | null>(null);
  const [times, setTimes] = useState(0);
  useEffect(() => {
    const opened = openAsker<Told, Asked, Answer>(begin(), setReply);
    asker.current = opened;
    return () => opened.close();
  }, [begin, times]);
  const anew = useCallback(() => {
    setReply(null);
    setTimes(before => before + 1);
  }, []);
  return { asker, reply, times, anew };
}
