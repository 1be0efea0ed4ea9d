import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { useLiveEvents, type LiveMessage } from '../../app/live';
import { samplePage, takeAhead } from './ahead';
import { FIRST_PAGE, SampleShelf, type ShelfState } from './shelf';

/** What comes within this is brought at once, in ms. */
const TOGETHER = 1000;

/** How long the first samples have for being shown before more are brought all the same, in ms. */
const PATIENCE = 1500;

/** Something that is waited for once, and not for longer than so many ms. */
function signal(patience: number) {
  let give: () => void = () => undefined;
  const given = new Promise<void>(resolve => (give = resolve));
  return {
    give: () => give(),
    wait: () => Promise.race([given, new Promise<void>(resolve => setTimeout(resolve, patience))]),
  };
}

/** The samples of a form as the workbench has them; what comes is put to them, and what was changed is brought anew. */
export function useShelf(formId: string): ShelfState & { again(): void; shown(): void } {
  const [shown] = useState(() => signal(PATIENCE));
  const [shelf] = useState(
    () =>
      new SampleShelf(
        query => (query === FIRST_PAGE ? takeAhead(formId) : undefined) ?? samplePage(formId, query),
        shown.wait,
      ),
  );
  useEffect(() => {
    shelf.load();
    return shelf.close;
  }, [shelf]);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => () => clearTimeout(timer.current ?? undefined), []);
  useLiveEvents(heard => {
    if (isChange(heard, formId)) shelf.load();
    else if (heard.type === 'arrival' && heard.formIds?.includes(formId))
      timer.current ??= setTimeout(() => {
        timer.current = null;
        shelf.more();
      }, TOGETHER);
  });
  return { ...useSyncExternalStore(shelf.subscribe, shelf.state), again: shelf.load, shown: shown.give };
}

/** True where more than what is new may be otherwise: variants, names, a reading anew. */
const isChange = (heard: LiveMessage, formId: string): boolean =>
  heard.type === 'missed' ||
  (heard.type === 'form' && heard.formId === formId) ||
  (heard.type === 'work' && heard.ended && heard.intakeId !== null);
