export { readSubmission, wordsOfSubmission } from './content';
export * from './decoders';
export type * from './tasks';
