import type { DeskView } from '@grammata/contract';
import { useState } from 'react';
import { useAddress } from '../../address';
import { isNew } from './steps';

/** Whether somebody left the guide stands in this browser. */
const LEFT = 'grammata.guideLeft';

/** Whether the Desk shows the guide: by itself on a new installation, until it is left; elsewhere when asked for. */
export function useGuide(desk: DeskView) {
  const [params, put] = useAddress();
  const [hasLeft, setLeft] = useState(() => localStorage.getItem(LEFT) !== null);
  return {
    isOpen: params.has('guide') || (!hasLeft && isNew(desk)),
    open: () => put({ guide: '' }),
    leave: () => {
      localStorage.setItem(LEFT, 'yes');
      setLeft(true);
      put({
        guide: null,
        step: null,
        intake: null,
        form: null,
        route: null,
        call: null,
        line: null,
        sample: null,
        view: null,
      });
    },
  };
}
