export * from './chain';
export * from './define';
export * from './library';
