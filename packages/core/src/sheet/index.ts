export * from './sheet';
