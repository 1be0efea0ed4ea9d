export * from './roles';
export * from './compound';
