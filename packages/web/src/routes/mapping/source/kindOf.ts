import { fieldsOf, type Source } from '@grammata/core/route';
import type { FieldKind } from '@grammata/core/submission';
import type { Offered } from '../../workbench';

/** What a source gives before any cleaning. */
export function kindOf(source: Source | null, references: Offered[]): FieldKind {
  if (source?.from === 'list') return source.entries.every(each => each.as === 'value') ? 'choices' : 'json';
  const [key] = fieldsOf(source);
  const isOne = source?.from === 'field' || source?.from === 'first';
  return isOne ? (references.find(each => each.key === key)?.kind ?? 'json') : 'text';
}
