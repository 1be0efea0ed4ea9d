export * from './reference';
export * from './scope';
