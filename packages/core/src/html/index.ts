export * from './text';
export { tablesOfHtml } from './tables';
