import { referencesIn, type Call } from '../route';
import { itemPick, placeWords, referenceOf } from '../scope';
import { tokensOf } from '../submission';
import type { AnswerField, Operation } from '../target';
import { defineCheck, look, operationOf, stop, type Finding } from './check';

/** What a call behind another uses of its record is told whether that was found or made: an answer to making one is no record. */
export const eitherWay = defineCheck({
  id: 'either-way',
  look(seen) {
    const { calls } = seen.definition;
    const open = calls.flatMap((call, at) =>
      call.find && call.find.equals === '' && !call.find.takesAny ? [`Call ${at + 1}`] : [],
    );
    const findings: Finding[] = open.flatMap(where =>
      stop(
        `${where}: the value to compare with a record is not set.`,
        'Send a look-up under Call settings, and point at the value to compare.',
      ),
    );
    for (const [at, call] of calls.entries())
      for (const { key } of referencesIn(call)) {
        const reference = referenceOf(key);
        if (reference.to !== 'answer' && reference.to !== 'identity') continue;
        const earlier = calls.find(each => each.id === reference.callId);
        if (!earlier) continue;
        if (reference.to === 'identity') {
          if (!earlier.identity)
            findings.push(
              ...stop(
                `Call ${at + 1} uses the record of another call, whose record ID is not set.`,
                'Set the record ID under the settings of the other call.',
              ),
            );
          continue;
        }
        const lacking = lackingWay(seen, earlier, reference.pointer);
        if (lacking)
          findings.push(
            ...look(
              `Call ${at + 1} uses ${placeWords(reference.pointer) || 'the answer'} of another call, which is missing if its record was ${lacking}. Use “Record, found or created” instead.`,
            ),
          );
      }
    return findings;
  },
});

type Seen = Parameters<typeof operationOf>[0];

/** How the record of a call comes about where its answer has not what is used of it; null where it has, or where nothing is known. */
function lackingWay(seen: Seen, call: Call, pointer: string): 'found' | 'made' | null {
  const { find } = call;
  if (!find) return null;
  const made = operationOf(seen, call, call.operationId);
  const finder = operationOf(seen, call, find.operationId);
  if (find.whenNone === 'create' && made && tells(made.answer, '', pointer) === false) return 'made';
  return finder && tells(finder.answer, find.list, pointer) === false ? 'found' : null;
}

/** Whether an answer has something at a place of its records; null where it is not told what it has. */
function tells(answer: Operation['answer'], list: string, pointer: string): boolean | null {
  const parts: AnswerField[] | undefined = list === '' && !answer?.some(each => each.items) ? answer : answer?.find(each => each.pointer === list)?.items; // prettier-ignore
  if (!parts || parts.length === 0) return null;
  const plain = tokensOf(pointer).filter(token => itemPick(token) === null);
  const wanted = plain.map(token => `/${token}`).join('');
  return parts.some(
    each => each.pointer === wanted || each.pointer.startsWith(`${wanted}/`) || wanted.startsWith(`${each.pointer}/`),
  );
}
