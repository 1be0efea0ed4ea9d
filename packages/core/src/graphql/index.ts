export * from './errors';
export * from './read';
export { getIntrospectionQuery } from 'graphql';
