export * from './shelf';
export * from './useShelf';
