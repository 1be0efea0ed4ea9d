import { defineCheck, fine, look, stop } from './check';

/** What was approved is what the route does. */
export const proofsHold = defineCheck({
  id: 'proofs',
  look({ proofs }) {
    if (!proofs) return [];
    const { total, differing } = proofs;
    if (total === 0) return look('No rehearsal was approved: nothing tells when a change breaks what works.');
    if (differing > 0)
      return stop(
        `${differing} of ${total} ${total === 1 ? 'proof' : 'proofs'} ${differing === 1 ? 'differs' : 'differ'} from what was approved.`,
        'Mend what is at fault, or accept it, under Proofs.',
      );
    return fine(total === 1 ? 'The one proof holds.' : `All ${total} proofs hold.`);
  },
});
