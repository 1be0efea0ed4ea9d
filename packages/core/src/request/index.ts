export * from './copies';
export * from './evaluate';
export * from './line';
export * from './plan';
export * from './wire';
