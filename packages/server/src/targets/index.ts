export * from './connection';
export * from './readTarget';
