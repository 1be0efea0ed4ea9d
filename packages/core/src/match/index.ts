export * from './assignment';
export { cleaningFor, optionsFor } from './cleaning';
export * from './evidence';
export * from './looseEnds';
export * from './match';
export * from './propose';
export * from './remedy';
