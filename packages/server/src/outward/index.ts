export * from './authorization';
export * from './feedAuth';
export * from './guard';
export * from './http';
export * from './nextPage';
export * from './consent';
