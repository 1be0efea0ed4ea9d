export * from './about';
export * from './ends';
export * from './files';
export * from './json';
export * from './percent';
export * from './pointer';
export * from './submission';
export * from './words';
