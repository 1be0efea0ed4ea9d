export * from './compile';
export * from './find';
export * from './item';
export * from './patience';
export * from './perform';
export * from './propose';
export * from './readBack';
