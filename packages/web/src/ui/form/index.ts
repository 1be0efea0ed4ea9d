/** A door of its own: what validates by the contract's classes is loaded with the first form. */
export * from './fields';
export * from './InputForm';
export * from './useInput';
export { useShown } from './shown';
