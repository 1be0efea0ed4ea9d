export * from './check';
export * from './compare';
export * from './files';
export * from './schemas';
export * from './suppose';
