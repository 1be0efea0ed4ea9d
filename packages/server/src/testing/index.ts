export * from './fuzz';
