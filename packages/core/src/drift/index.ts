export * from './answers';
export * from './documents';
export * from './forms';
export { type Message } from './profile';
export * from './messages';
export { fieldPlace, operationName } from './schemas';
export * from './repair';
export * from './fare';
export * from './suppose';
