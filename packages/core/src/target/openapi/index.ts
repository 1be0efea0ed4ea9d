export * from './openapi';
export { References } from './schema';
export { fromSwagger, isSwagger } from './swagger';
