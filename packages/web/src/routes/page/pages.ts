// The page of a route and its parts, loaded together: they share nearly everything, and one file is there sooner than twenty.
export { Versions } from '../differences/Versions';
export { How } from '../how/How';
export { Proofs } from '../proofs/Proofs';
export { RehearsalTable } from '../rehearsal/RehearsalTable';
export { HandoverSheet } from '../sheet/HandoverSheet';
export { Tryout } from '../tryout/Tryout';
export { What } from '../what/What';
export { When } from '../when/When';
export { NoSuchPart } from './NoSuchPart';
export { RoutePage } from './RoutePage';
