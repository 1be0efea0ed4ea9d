export * from './inputs';
export * from './views';
