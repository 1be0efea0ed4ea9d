export { ConfigFault, configFrom, type Config } from './config';
export { assemble, type Assembled, type Running } from './start';
export type { Services } from './services';
export { hashPassword } from './access';
export { readingOf, decodeArrival } from './intake';
export { aboutSubmission, dispatcher } from './delivery';
export { newId } from './ids';
export { readTarget } from './targets';
export type { ArrivalRow, IntakeRow } from './store';
