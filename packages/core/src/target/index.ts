export * from './openapi';
export * from './check';
export * from './credentials';
export * from './discovery';
export * from './mail';
export * from './operation';
