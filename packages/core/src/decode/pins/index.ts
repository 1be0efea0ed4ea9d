export * from './landmarks';
export * from './pins';
