export * from './compile';
export * from './find';
export * from './foresee';
export * from './item';
export * from './patience';
export * from './perform';
export * from './propose';
export * from './readBack';
