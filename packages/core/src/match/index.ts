export * from './assignment';
export * from './evidence';
export * from './looseEnds';
export * from './match';
export * from './propose';
export * from './remedy';
