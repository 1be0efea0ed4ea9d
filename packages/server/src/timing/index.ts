export * from './timers';
export * from './deadline';
