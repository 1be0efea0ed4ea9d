export * from './useDraft';
