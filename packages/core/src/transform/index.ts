export * from './chain';
export * from './define';
export * from './ids';
export * from './library';
export * from './kinds';
export { countryCodeOf } from './country';
export { decimalMarkOf, type DecimalMark } from './number/toNumber';
export type { DateOrder } from './date/readDate';
