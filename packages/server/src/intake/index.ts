export * from './reader';
export * from './receive';
export * from './recorder';
export * from './verify';
