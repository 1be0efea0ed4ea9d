export * from './check';
export * from './compare';
export * from './files';
export * from './schemas';
