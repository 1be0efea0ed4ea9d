export * from './guard';
export * from './passwords';
export * from './secrets';
export * from './setupToken';
