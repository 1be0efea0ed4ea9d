export * from './compile';
export * from './find';
export * from './perform';
export * from './propose';
export * from './readBack';
