export * from './choices';
export * from './connection';
export * from './readTarget';
