export * from './credentials';
export * from './guard';
export * from './http';
