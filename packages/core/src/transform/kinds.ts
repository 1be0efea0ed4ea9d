import type { FieldKind } from '../submission';
import type { Step } from './define';
import { transformOf } from './library';

/** Kinds that are texts: a step that takes one of them takes the others as well. */
const texts: readonly FieldKind[] = [
  'text',
  'multiline',
  'name',
  'email',
  'phone',
  'url',
  'date',
  'time',
  'datetime',
  'choice',
];

const words: Record<FieldKind, string> = {
  text: 'text',
  multiline: 'text',
  name: 'a name',
  email: 'text',
  phone: 'text',
  url: 'text',
  number: 'a number',
  boolean: 'yes or no',
  date: 'a date',
  time: 'a time',
  datetime: 'a date',
  choice: 'text',
  choices: 'a list',
  address: 'an address',
  files: 'files',
  table: 'a table',
  json: 'a value with parts',
};

/** What leads from a kind that does not fit to one that does: the step to put before. */
const bridges: Partial<Record<FieldKind, string>> = {
  choices: 'list.join',
  files: 'files.part',
  table: 'table.text',
  address: 'address.part',
};

export interface KindFault {
  /** Its place in the chain, from 0. */
  step: number;
  message: string;
}

const fits = (kind: FieldKind, accepts: readonly FieldKind[]): boolean =>
  accepts.includes(kind) ||
  // What is inside a value with parts is not known beforehand.
  kind === 'json' ||
  (texts.includes(kind) && accepts.some(each => texts.includes(each))) ||
  // An address or name may be one text or come in parts.
  (kind === 'address' && accepts.includes('text') && accepts.includes('json'));

/**
 * Follows the kinds along a chain, from that of the source: which steps are given what they do not take, said so that
 * it can be mended. `gives` is the kind at the end. Steps that are off or unknown are passed over.
 */
export function checkKinds(from: FieldKind, steps: readonly Step[]): { faults: KindFault[]; gives: FieldKind } {
  const faults: KindFault[] = [];
  let kind = from;
  for (const [index, step] of steps.entries()) {
    const transform = transformOf(step.id);
    if (!transform || step.off) continue;
    if (transform.accepts !== 'any' && !fits(kind, transform.accepts)) {
      const bridge = transformOf(bridges[kind] ?? '');
      const wanted = [...new Set(transform.accepts.map(each => words[each]))].slice(0, 2).join(' or ');
      faults.push({
        step: index,
        message: `“${transform.label}” takes ${wanted} and is given ${words[kind]}.${bridge ? ` Put “${bridge.label}” before it.` : ''}`,
      });
    }
    if (transform.returns !== 'same') kind = transform.returns;
  }
  return { faults, gives: kind };
}
