export * from './Conflict';
export * from './Differences';
export * from './Versions';
