export * from './timers';
