import { useState } from 'react';
import type { Editing } from './useDraft';

/**
 * Does something with the draft that is shown, by the revision that it is stored as; and whether that was not done, since another is stored
 * by now.
 */
export function useShownDraft({ draft, storedAs }: Pick<Editing, 'draft' | 'storedAs'>) {
  const [isOther, setIsOther] = useState(false);
  const done = async (act: (revision: number) => void) => {
    const revision = await storedAs(draft);
    setIsOther(revision === null);
    if (revision !== null) act(revision);
  };
  return [done, isOther] as const;
}
