export * from './durable';
export * from './health';
