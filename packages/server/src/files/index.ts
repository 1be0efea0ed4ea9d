export * from './contents';
export * from './copies';
export * from './staging';
