export * from './decoders';
export type * from './tasks';
