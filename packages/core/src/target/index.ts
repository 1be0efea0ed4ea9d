export * from './check';
export * from './discovery';
export * from './operation';
