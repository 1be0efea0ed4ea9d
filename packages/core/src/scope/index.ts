export * from './place';
export * from './reference';
export * from './scope';
