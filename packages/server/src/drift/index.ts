export * from './answerWatch';
export * from './formWatch';
export * from './heldBy';
export * from './holding';
export * from './knownForm';
export * from './release';
export * from './targetWatch';
export * from './touch';
