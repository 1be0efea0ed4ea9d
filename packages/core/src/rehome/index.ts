export * from './move';
export * from './ontoForm';
export * from './ontoTarget';
