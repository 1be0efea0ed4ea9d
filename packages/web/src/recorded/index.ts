export * from './SendRecorded';
export * from './SendThrough';
