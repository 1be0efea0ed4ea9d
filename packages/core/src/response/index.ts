export * from './complaint';
export * from './success';
