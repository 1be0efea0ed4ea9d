export * from './roles';
export * from './compound';
export * from './surroundings';
export * from './telling';
