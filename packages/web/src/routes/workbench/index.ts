export * from './ReferencePick';
export * from './references';
export * from './useSame';
export { useWorkbench } from './useWorkbench';
export * from './WorkbenchOf';
export * from './workbench';
export * from './NoSample';
