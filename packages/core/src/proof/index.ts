export * from './cover';
export * from './differ';
export * from './enact';
export * from './fault';
export * from './hold';
