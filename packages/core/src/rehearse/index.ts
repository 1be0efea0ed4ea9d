export * from './rehearse';
export * from './rehearser';
export * from './route';
