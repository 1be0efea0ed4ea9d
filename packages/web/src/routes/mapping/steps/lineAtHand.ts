import type { CompiledLine } from '@grammata/core/request';
import { createContext } from 'react';

/** The line whose steps are shown; null where steps stand by themselves. */
export const LineAtHand = createContext<CompiledLine | null>(null);
