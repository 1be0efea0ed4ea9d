export * from './PinPanel';
export * from './usePinning';
