export * from './samplingReport';
export * from './volunteerSignUp';
export * from './kitRequest';
export * from './incidentAlert';
export * from './siteAccessLog';
export * from './schoolVisit';
