export * from './openapi';
export * from './check';
export * from './credentials';
export * from './discovery';
export * from './example';
export * from './mail';
export * from './tableFiles';
export * from './operation';
