export * from './authorization';
export * from './guard';
export * from './http';
