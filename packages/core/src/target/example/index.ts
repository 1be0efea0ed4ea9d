export * from './answer';
export type { ShownCredentials } from './credentials';
export * from './example';
export { fieldOf, fieldsOf as fieldsOfRecord, typeOf as typeOfExample } from './fields';
