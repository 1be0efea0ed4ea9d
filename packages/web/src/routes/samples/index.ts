export { askAhead } from './ahead';
export * from './shelf';
export * from './useShelf';
