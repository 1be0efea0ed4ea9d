export * from './answersUsed';
export * from './call';
export * from './definition';
export * from './faults';
export * from './line';
export * from './differences';
export * from './questions';
export * from './references';
