export * from './formWatch';
export * from './targetWatch';
export * from './touch';
