export * from './guard';
export * from './knownSecrets';
export * from './passwords';
export * from './secrets';
export * from './setupToken';
