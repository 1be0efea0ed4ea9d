// The page of a route and its parts, loaded together: they share nearly everything, and one file is there sooner than twenty.
export { Delivery } from '../delivery/Delivery';
export { Versions } from '../differences/Versions';
export { Filter } from '../filter/Filter';
export { Mapping } from '../mapping/Mapping';
export { Proofs } from '../proofs/Proofs';
export { RehearsalTable } from '../rehearsal/RehearsalTable';
export { HandoverSheet } from '../sheet/HandoverSheet';
export { Test } from '../test/Test';
export { NoSuchPart } from './NoSuchPart';
export { RoutePage } from './RoutePage';
