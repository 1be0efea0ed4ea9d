export * from './Marked';
export * from './Wire';
