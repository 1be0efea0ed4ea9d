export * from './hostile';
export * from './targetField';
export * from './mutated';
export * from './roster';
export * from './reports';
