import { defineCheck, fine, look, stop } from './check';

/** What was approved is what the route does. */
export const proofsHold = defineCheck({
  id: 'proofs',
  look({ proofs }) {
    if (!proofs) return [];
    const { total, differing } = proofs;
    if (total === 0) return look('No proofs yet. Changes to this mapping won’t be checked.');
    if (differing > 0)
      return stop(
        `${differing} of ${total} ${total === 1 ? 'proof' : 'proofs'} ${differing === 1 ? 'differs' : 'differ'} from what was approved.`,
        'Fix the mapping, or approve the new results under Proofs.',
      );
    return fine(total === 1 ? 'The proof passes.' : `All ${total} proofs pass.`);
  },
});
