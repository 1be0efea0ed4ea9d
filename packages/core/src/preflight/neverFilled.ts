import { defineCheck } from './check';
import { aboutLines, filledLines } from './lineFindings';

/** Fewer samples than this say little about what is never answered. */
const ENOUGH = 5;

/** Each line is filled in some sample: one that never is may draw on a question that is gone. */
export const neverFilled = defineCheck({
  id: 'never',
  look(seen) {
    const { rehearsal } = seen;
    if (!rehearsal || 'fault' in rehearsal || !rehearsal.summary || rehearsal.summary.going < ENOUGH) return [];
    const { calls, callIds } = rehearsal.summary;
    const never = filledLines(seen).filter(({ call, line }) => {
      if (line.source?.from === 'constant') return false;
      const totals = calls[callIds.indexOf(call.id)]?.lines.find(each => each.lineId === line.id);
      return totals !== undefined && totals.blank > 0 && totals.fine === 0 && totals.trouble === 0;
    });
    return aboutLines(
      'look',
      never,
      names => `${names}: blank in every past submission.`,
      'Its question may have been replaced.',
    );
  },
});
