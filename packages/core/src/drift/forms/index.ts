export * from './forms';
export * from './messages';
export { type Message } from './profile';
export * from './takenBack';
