export * from './documents';
export * from './forms';
export { type Message } from './profile';
export * from './messages';
