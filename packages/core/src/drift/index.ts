export * from './answers';
export * from './compare';
export * from './documents';
export * from './fare';
export * from './forms';
export * from './repair';
export * from './suppose';
