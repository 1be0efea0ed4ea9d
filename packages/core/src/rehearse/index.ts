export * from './rehearse';
export * from './rehearser';
