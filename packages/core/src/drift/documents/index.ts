export * from './documents';
export { fieldPlace, operationName } from './schemas';
