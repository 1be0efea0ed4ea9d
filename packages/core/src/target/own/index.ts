export * from './doubts';
export * from './faults';
export * from './own';
