export * from './dispatch';
export * from './prepare';
export * from './queue';
