export * from './answers';
export * from './causes';
export { shareOfLook } from './chance';
export * from './compare';
export * from './documents';
export * from './fare';
export * from './forms';
export * from './repair';
export * from './suppose';
