import type { SamplePage } from '@grammata/contract';
import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { api } from '../../api';
import { useHeard, type Heard } from '../../app/live';
import { SampleShelf, type ShelfState } from './shelf';

/** What comes within this is brought at once, in ms. */
const TOGETHER = 1000;

/** The samples of a form as the workbench has them; what comes is put to them, and what was changed is brought anew. */
export function useShelf(formId: string): ShelfState & { again(): void } {
  const [shelf] = useState(() => new SampleShelf(query => api<SamplePage>(`/forms/${formId}/columns?${query}`)));
  useEffect(() => {
    shelf.load();
    return shelf.close;
  }, [shelf]);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => () => clearTimeout(timer.current ?? undefined), []);
  useHeard(heard => {
    if (isChange(heard, formId)) shelf.load();
    else if (heard.type === 'arrival' && heard.formIds?.includes(formId))
      timer.current ??= setTimeout(() => {
        timer.current = null;
        shelf.more();
      }, TOGETHER);
  });
  return { ...useSyncExternalStore(shelf.subscribe, shelf.state), again: shelf.load };
}

/** True where more than what is new may be otherwise: variants, names, a reading anew. */
const isChange = (heard: Heard, formId: string): boolean =>
  heard.type === 'missed' ||
  (heard.type === 'form' && heard.formId === formId) ||
  (heard.type === 'work' && heard.ended && heard.intakeId !== null);
