export * from './chain';
export * from './define';
export * from './ids';
export * from './library';
export * from './kinds';
export { countryCodeOf } from './country';
