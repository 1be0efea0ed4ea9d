import { useEffect } from 'react';

/** Says in the tab and the history what is shown. */
export function useTitle(title: string): void {
  useEffect(() => {
    document.title = title === '' ? 'Grammata' : `${title} · Grammata`;
  }, [title]);
}
