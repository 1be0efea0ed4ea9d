import type { Line } from '@grammata/core/route';

/** Changes one line of the draft. */
export type EditLine = (change: (line: Line) => Line) => void;
