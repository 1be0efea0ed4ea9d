export * from './afterwards';
export * from './api';
export * from './useChangeFrom';
export * from './keys';
