export * from './actor';
export * from './askNow';
export * from './goLive';
export * from './sendAgain';
export * from './sendRecorded';
