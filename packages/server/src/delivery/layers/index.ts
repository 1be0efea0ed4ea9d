export * from './breaker';
export * from './pace';
export * from './renewal';
export * from './send';
