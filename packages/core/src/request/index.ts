export * from './copies';
export * from './evaluate';
export * from './plan';
export * from './wire';
export * from './curl';
export * from './indented';
