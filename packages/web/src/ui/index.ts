export * from './format';
export * from './kinds';
export * from './parts';
export * from './states';
export * from './useNow';
export * from './Wire';
export * from './Floating';
export * from './useRowFocus';
