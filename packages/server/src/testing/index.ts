export * from './draftOf';
export * from './fuzz';
