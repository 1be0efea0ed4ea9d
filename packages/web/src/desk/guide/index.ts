import { lazy } from 'react';

export { useGuide } from './useGuide';

/** Brings the page of a route with it: loaded where it is shown. */
export const Guide = lazy(async () => ({ default: (await import('./Guide')).Guide }));
