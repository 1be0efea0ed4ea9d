export * from './form';
export * from './target';
export { repairWays, type Repair, type RepairParts, type RepairWay } from './ways';
