export * from './queries';
export * from './WorkStrip';
