export * from './changing';
export * from './edits';
export * from './section';
