export * from './hub';
export * from './stream';
