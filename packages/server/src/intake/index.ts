export * from './reader';
export * from './receive';
export * from './recorder';
export * from './upload';
export * from './verify';
