import { compareSides, type Comparing, type Side } from '@grammata/core/drift';
import { answering } from '../../workers/asking';

export interface Sides {
  before: Side;
  after: Side;
}

answering<never, Sides, Comparing>({ asked: ({ before, after }) => compareSides(before, after) });
