export * from './infer';
export * from './jsonSchema';
export * from './weeks';
