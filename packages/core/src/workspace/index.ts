export * from './check';
export * from './files';
export * from './schemas';
