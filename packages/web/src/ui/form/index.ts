export * from './Combobox';
export * from './controls';
export * from './fields';
export * from './InputForm';
export * from './Labelled';
export * from './useInput';
export { fit, found } from './search';
export * from './numbers';
