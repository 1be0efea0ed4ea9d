export type { MatchTarget, SourceField } from './evidence';
export { match, type Proposal } from './match';
