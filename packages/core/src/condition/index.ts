export { comparators, comparatorsFor, comparatorWords, takesValues, type Comparator } from './comparators';
export * from './condition';
