export * from './asking';
export * from './courier';
export * from './dispatch';
export * from './postman';
export * from './prepare';
export * from './driver';
export * from './layers';
export * from './trial';
