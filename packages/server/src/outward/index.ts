export * from './guard';
export * from './http';
