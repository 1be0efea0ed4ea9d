export * from './Combobox';
export * from './controls';
export * from './Labelled';
export * from './ListBox';
export * from './numbers';
export * from './search';
export * from './useTyped';
