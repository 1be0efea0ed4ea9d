export * from './ReferencePick';
export * from './references';
export * from './useParam';
export * from './useWorkbench';
export * from './workbench';
export * from './NoSample';
