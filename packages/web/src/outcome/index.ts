export * from './Outcome';
