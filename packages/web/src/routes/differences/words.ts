import { placeWords } from '@grammata/core/scope';
import { explainCondition } from '@grammata/core/condition';
import type { Call, Difference, Line, Terms } from '@grammata/core/route';
import { sourceWords } from '@grammata/core/sheet';
import { asText } from '@grammata/core/submission';
import { compileChain } from '@grammata/core/transform';
import { span } from '../../ui';
import { callWords } from '../calls/callWords';

/** A difference as people read it: where it is, and what stands there on either side; null for nothing. */
export interface Told {
  key: string;
  where: string;
  before: string | null;
  after: string | null;
}

export interface Names {
  labelOf(key: string): string;
  /** What a call does, by its identifier. */
  callOf(call: Call): string;
}

/** A difference in words. */
export function differenceWords(difference: Difference, names: Names): Told {
  switch (difference.what) {
    case 'name':
      return { key: 'name', where: 'Name', before: difference.before, after: difference.after };
    case 'condition': {
      const words = (condition: typeof difference.before) => explainCondition(condition, names.labelOf);
      return { key: 'when', where: 'When', before: words(difference.before), after: words(difference.after) };
    }
    case 'terms':
      return { key: 'how', where: 'How', before: termsWords(difference.before), after: termsWords(difference.after) };
    case 'order': {
      const words = (ids: string[]) => ids.map((_, at) => at + 1).join(', ');
      const moved = difference.after.map(id => difference.before.indexOf(id) + 1).join(', ');
      return { key: 'order', where: 'Order of the calls', before: words(difference.before), after: moved };
    }
    case 'call': {
      const { before, after, callId } = difference;
      const where = `Call “${names.callOf((after ?? before)!)}”`;
      return { key: callId, where, before: before && lineCount(before), after: after && lineCount(after) };
    }
    case 'settings': {
      const { before, after, callId } = difference;
      const words = (call: Call) => settingsWords(call, difference.parts, names);
      return {
        key: `${callId} made`,
        where: `How “${names.callOf(after)}” is made`,
        before: words(before),
        after: words(after),
      };
    }
    case 'line': {
      const { before, after, callId, lineId } = difference;
      return {
        key: `${callId} ${lineId}`,
        where: (after ?? before)!.to,
        before: before && lineWords(before, names),
        after: after && lineWords(after, names),
      };
    }
  }
}

const changedWords = {
  deliver: null,
  holdTouched: 'held while what it uses changed',
  holdAll: 'held while anything changed',
};

const termsWords = ({ hours, timeZone, needsTrial, whenChanged = 'deliver' }: Terms): string =>
  [
    hours === 0 ? 'tried once' : `tried for ${span(hours)}`,
    timeZone,
    needsTrial ? 'only after a real try' : null,
    changedWords[whenChanged],
  ]
    .filter(Boolean)
    .join(' · ');

const lineCount = ({ lines }: Call): string => `${lines.filter(line => line.source !== null).length} lines`;

function settingsWords(call: Call, parts: readonly string[], { labelOf }: Names): string {
  const said = callWords(call, labelOf);
  const others = parts.filter(part =>
    ['name', 'readBack', 'identity', 'retry', 'pages', 'targetId', 'operationId'].includes(part),
  );
  const more: Record<string, string> = {
    name: call.name ? `called “${call.name}”` : 'called by its operation',
    readBack: call.readBack ? 'read back' : 'not read back',
    identity: call.identity
      ? `its record known by ${placeWords(call.identity.made)}${call.find ? `, found by ${placeWords(call.identity.found)}` : ''}`
      : 'its record not known to others',
    retry: call.retry ? 'tries of its own' : 'the usual tries',
    pages: call.pages ? `a web page counts as ${call.pages}` : 'a web page counts as usual',
    targetId: 'another target',
    operationId: call.operationId,
  };
  return [...said, ...others.map(part => more[part]!)].join(' · ') || 'for each submission';
}

const blanks: Record<Line['whenBlank'], string | null> = {
  leaveOut: null,
  null: 'null when blank',
  empty: 'empty when blank',
  fallback: 'else',
  stop: 'held when blank',
};

/** A line in one sentence: where it comes from, how it is cleaned, what becomes of blanks and problems. */
function lineWords(line: Line, { labelOf }: Names): string {
  if (line.source === null) return 'nothing yet';
  const fallback = line.whenBlank === 'fallback' || line.whenProblem === 'fallback';
  return [
    sourceWords(line, labelOf),
    ...compileChain(line.cleaning).explain,
    line.whenBlank === 'fallback' ? null : blanks[line.whenBlank],
    line.whenProblem === 'leaveOut' ? 'left out when in trouble' : null,
    fallback ? `else “${asText(line.fallback)}”` : null,
    line.writes === 'onCreate' ? 'only on making' : line.writes === 'whereBlank' ? 'only where blank' : null,
    line.writes === 'add' ? 'beside what is there' : null,
    line.copies ? 'as links to copies' : null,
  ]
    .filter(Boolean)
    .join(', ');
}
