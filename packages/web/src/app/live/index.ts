export * from './Live';
