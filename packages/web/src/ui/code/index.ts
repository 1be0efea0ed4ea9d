export * from './Wire';
