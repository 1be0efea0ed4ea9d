import type { MatchTarget, SourceField } from '@grammata/core/match';
import type { FieldKind } from '@grammata/core/submission';

/** A form and a target with the lines that a person would draw: target key to source key, null for none. */
export interface Pair {
  name: string;
  from: SourceField[];
  to: MatchTarget[];
  lines: Record<string, string | null>;
}

const cells = (row: string) => row.split('|').map(cell => cell.trim());

/**
 * A pair written as rows. A question: `key | label | kind | sample / sample`. A field:
 * `key | label | type (option, option) | key of its question or -`. Cells at the end, and kinds and labels, may be empty.
 */
export function pair(name: string, questions: string, fields: string): Pair {
  const rows = (text: string) =>
    text
      .split('\n')
      .map(line => line.trim())
      .filter(Boolean)
      .map(cells);
  const from = rows(questions).map(([key = '', label, kind, samples]): SourceField => ({
    key,
    ...(label ? { label } : {}),
    ...(kind ? { kind: kind as FieldKind } : {}),
    ...(samples ? { samples: samples.split('/').map(each => each.trim()) } : {}),
  }));
  const lines: Pair['lines'] = {};
  const to = rows(fields).map(([key = '', label, typed = '', source = '-']): MatchTarget => {
    lines[key] = source === '-' ? null : source;
    const [, type = '', options] = /^([\w-]*)\s*(?:\((.*)\))?$/.exec(typed) ?? [];
    return {
      key,
      ...(label ? { label } : {}),
      ...(type ? { type } : {}),
      ...(options ? { options: options.split(',').map(each => each.trim()) } : {}),
    };
  });
  const unknown = Object.values(lines).find(source => source !== null && !from.some(each => each.key === source));
  if (unknown !== undefined) throw new Error(`${name}: there is no question “${unknown}”`);
  return { name, from, to, lines };
}
