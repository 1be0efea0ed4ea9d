export * from './openapi';
export * from './check';
export * from './discovery';
export * from './operation';
