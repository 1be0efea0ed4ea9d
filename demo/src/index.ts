export { pastReports, REPORTS, type PastReport } from './reports';
export { toFollowUps, toRegister } from './routes';
