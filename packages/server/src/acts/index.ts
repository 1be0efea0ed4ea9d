export * from './actor';
export * from './sendAgain';
export * from './sendRecorded';
