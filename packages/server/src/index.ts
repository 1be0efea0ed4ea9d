export { ConfigFault, configFrom, type Config } from './config';
export { assemble, type Assembled, type Running } from './start';
export type { Services } from './services';
export { hashPassword } from './access';
export { messageOf, newArrival } from './intake';
export { passes } from './delivery';
export { atLast } from './lastResort';
export { readTarget } from './targets';
export type { ArrivalRow, IntakeRow, ReceivedArrival } from './store';
