export * from './access';
export * from './archive';
export * from './incidents';
export * from './kits';
export * from './register';
export * from './roster';
export * from './schools';
export * from './sightings';
