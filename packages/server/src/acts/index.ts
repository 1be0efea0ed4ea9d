export * from './actor';
export * from './goLive';
export * from './sendAgain';
export * from './sendRecorded';
