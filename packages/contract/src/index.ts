export * from './feed';
export * from './forms';
export * from './inputs';
export * from './pins';
export * from './verification';
export * from './views';
export * from './recipe';
export * from './routeViews';
