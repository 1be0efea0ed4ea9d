export * from './chain';
export * from './define';
export * from './library';
export * from './kinds';
