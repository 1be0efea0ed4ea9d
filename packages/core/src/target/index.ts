export * from './openapi';
export * from './check';
export * from './credentials';
export * from './discovery';
export * from './operation';
