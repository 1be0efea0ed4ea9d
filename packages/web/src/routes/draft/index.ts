export * from './useDraft';
export * from './useShownDraft';

/** Said where what is to be done was shown for another draft than the one that is stored. */
export const otherThanShown = 'The route was just edited elsewhere. Check it, then try again.';
