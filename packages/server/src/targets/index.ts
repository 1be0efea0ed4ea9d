export * from './rereading';
export * from './tokenEnd';
export * from './choices';
export * from './connection';
export * from './readTarget';
export * from './lookAt';
export * from './offer';
