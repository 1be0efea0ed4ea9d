import { callName, keysOf } from '../route';
import { referenceOf } from '../scope';
import { defineCheck, operationOf, type Seen } from './check';
import { aboutLines, filledLines, type LineAt } from './lineFindings';

/** What lines use of the answers of earlier calls is there whenever they are made. */
export const answersThere = defineCheck({
  id: 'answers',
  look(seen) {
    const open = filledLines(seen).flatMap(each => {
      const why = keysOf(each.line)
        .map(key => whyMissing(seen, key))
        .find(reason => reason !== null);
      return why && (each.line.whenBlank ?? 'leaveOut') !== 'stop' ? [{ ...each, why }] : [];
    });
    const byReason = new Map<string, LineAt[]>();
    for (const { why, ...line } of open) byReason.set(why, [...(byReason.get(why) ?? []), line]);
    return [...byReason].flatMap(([why, lines]) =>
      aboutLines('look', lines, names => `${names}: blank if ${why}.`, 'Choose what to do if blank.'),
    );
  },
});

/** Why the answer that is referred to may not be there; null for what always is. */
function whyMissing(seen: Seen, key: string): string | null {
  const reference = referenceOf(key);
  if (reference.to !== 'answer' && reference.to !== 'identity') return null;
  const call = seen.definition.calls.find(each => each.id === reference.callId);
  if (!call) return null;
  const name = `“${callName(call, operationOf(seen, call, call.operationId) ?? null)}”`;
  if (call.condition) return `the condition of ${name} is not met`;
  if (call.repeat) return `${name} has nothing to repeat for`;
  if (call.whenFailed === 'passOver') return `${name} failed and was skipped`;
  if (call.find?.whenNone === 'leave') return `${name} found no record`;
  return null;
}
