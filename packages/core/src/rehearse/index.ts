export * from './rehearse';
export * from './summary';
