export * from './text';
