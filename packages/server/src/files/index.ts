export * from './contents';
export * from './copies';
export * from './rows';
export * from './staging';
