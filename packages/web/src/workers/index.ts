export * from './asking';
export * from './useAsker';
