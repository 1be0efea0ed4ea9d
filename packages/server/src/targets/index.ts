export * from './connection';
export * from './credentials';
export * from './readTarget';
