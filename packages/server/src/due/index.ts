export * from './port';
export * from './sqlite';
