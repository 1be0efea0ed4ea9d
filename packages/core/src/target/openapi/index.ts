export * from './openapi';
