export * from './commands';
export * from './direct';
export * from './fault';
export * from './gate';
export * from './identity';
export { LedgerThread } from './thread';
