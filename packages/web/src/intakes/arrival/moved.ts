import type { MouseEvent } from 'react';

/** False for the mouse events that a browser makes up when things scroll under a mouse that lies still. */
export const moved = ({ movementX, movementY }: MouseEvent): boolean => movementX !== 0 || movementY !== 0;
