export * from './example';
