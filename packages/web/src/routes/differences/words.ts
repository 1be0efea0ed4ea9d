import { placeWords } from '@grammata/core/scope';
import { explainCondition } from '@grammata/core/condition';
import type { Call, Difference, Line, Terms } from '@grammata/core/route';
import { sourceWords } from '@grammata/core/sheet';
import { asText } from '@grammata/core/submission';
import { compileChain } from '@grammata/core/transform';
import { span } from '../../ui';
import { callWords } from '../calls/callWords';

/** A difference as people read it: where it is, and what stands there on either side; null for nothing. */
export interface DifferenceRow {
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
export function differenceWords(difference: Difference, names: Names): DifferenceRow {
  switch (difference.what) {
    case 'name':
      return { key: 'name', where: 'Name', before: difference.before, after: difference.after };
    case 'condition': {
      const words = (condition: typeof difference.before) => explainCondition(condition, names.labelOf);
      return { key: 'when', where: 'Filter', before: words(difference.before), after: words(difference.after) };
    }
    case 'terms':
      return {
        key: 'how',
        where: 'Delivery',
        before: termsWords(difference.before),
        after: termsWords(difference.after),
      };
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
        where: `Settings of “${names.callOf(after)}”`,
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
  holdLost: null,
  deliver: 'delivered while a change is open',
  holdTouched: 'held while a used question has an open change',
  holdAll: 'held while a change is open',
};

const termsWords = ({ hours, timeZone, needsTrial, whenChanged = 'holdLost', holdHours }: Terms): string =>
  [
    hours === 0 ? 'no retries' : `retries for ${span(hours)}`,
    timeZone,
    needsTrial ? 'requires a successful test' : null,
    changedWords[whenChanged],
    holdHours === undefined ? null : `held for ${span(holdHours)} at most`,
  ]
    .filter(Boolean)
    .join(' · ');

const lineCount = ({ lines }: Call): string => `${lines.filter(line => line.source !== null).length} lines`;

function settingsWords(call: Call, parts: readonly string[], { labelOf }: Names): string {
  const callParts = callWords(call, labelOf);
  const others = parts.filter(part =>
    ['name', 'readBack', 'identity', 'retry', 'pages', 'success', 'targetId', 'operationId'].includes(part),
  );
  const more: Record<string, string> = {
    name: call.name ? `called “${call.name}”` : 'named after its operation',
    readBack: call.readBack ? 'read back' : 'not read back',
    identity: call.identity
      ? `record ID at ${placeWords(call.identity.made)}${call.find ? `, found at ${placeWords(call.identity.found)}` : ''}`
      : 'record ID unknown',
    retry: call.retry ? 'custom retries' : 'default retries',
    pages: call.pages ? `a web page counts as ${call.pages}` : 'default for web pages',
    success: successWords(call),
    targetId: 'another target',
    operationId: call.operationId,
  };
  return [...callParts, ...others.map(part => more[part]!)].join(' · ') || 'for each submission';
}

function successWords({ success }: Call): string {
  if (!success) return 'default success';
  if (success.by === 'status') return 'success by status only';
  const is = success.values === null ? 'is there' : `is ${success.values.join(' or ')}`;
  return `success if ${placeWords(success.pointer) || 'the response'} ${is}`;
}

const blanks: Record<Line['whenBlank'], string | null> = {
  leaveOut: null,
  null: 'null if blank',
  empty: 'empty if blank',
  fallback: 'else',
  stop: 'held if blank',
};

/** A line in one sentence: where it comes from, how it is cleaned, what becomes of blanks and problems. */
function lineWords(line: Line, { labelOf }: Names): string {
  if (line.source === null) return line.declined ? 'no source, suggestion declined' : 'no source';
  const fallback = line.whenBlank === 'fallback' || line.whenProblem === 'fallback';
  return [
    sourceWords(line, labelOf),
    ...compileChain(line.cleaning).explain,
    line.whenBlank === 'fallback' ? null : blanks[line.whenBlank],
    line.whenProblem === 'leaveOut' ? 'left out if invalid' : null,
    fallback ? `if invalid “${asText(line.fallback)}”` : null,
    line.writes === 'onCreate' ? 'only on create' : line.writes === 'whereBlank' ? 'only if blank' : null,
    line.writes === 'add' ? 'added to the list' : null,
    line.copies ? 'as links to copies' : null,
  ]
    .filter(Boolean)
    .join(', ');
}
