export * from './compile';
export * from './find';
export * from './patience';
export * from './perform';
export * from './propose';
export * from './readBack';
