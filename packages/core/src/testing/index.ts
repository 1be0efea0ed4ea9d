export * from './hostile';
export * from './targetField';
export * from './mutated';
