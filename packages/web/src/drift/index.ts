export * from './queries';
export * from './words';
