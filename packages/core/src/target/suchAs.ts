import { asText, type Json } from '../submission';

/** A value that was seen at a field, as its description says it; null for what says nothing. */
export function suchAs(value: Json | undefined): string | null {
  const text = asText(value ?? null);
  return text === '' ? null : `such as ${text.slice(0, 80)}`;
}

/** The value that a description written by {@link suchAs} names; null for a description in words. */
export const valueNamed = (description: string | null | undefined): string | null =>
  /^such as (.*)$/s.exec(description ?? '')?.[1] ?? null;
