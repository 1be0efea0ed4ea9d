export * from './asking';
export * from './courier';
export * from './dispatch';
export * from './postman';
export * from './prepare';
export * from './queue';
export * from './trial';
