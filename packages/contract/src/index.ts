export * from './inputs';
export * from './verification';
export * from './views';
