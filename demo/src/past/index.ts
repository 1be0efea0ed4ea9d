export * from './accessRows';
export * from './alerts';
export * from './kitRequests';
export * from './past';
export * from './reports';
export * from './signUps';
export * from './specimens';
export * from './visits';
