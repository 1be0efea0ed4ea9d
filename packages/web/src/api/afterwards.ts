/**
 * Goes on once something is done, wherever the page is by then: what a mutation calls back is not called where its part of the page is gone,
 * as it is when what it showed was removed. That it failed is told by the mutation.
 */
export const afterwards = (done: Promise<unknown>, then: () => void): void => void done.then(then, () => undefined);
