import { usualTerms, type RouteDefinition } from '@grammata/core/route';
import { newLine, type Line, type Segment, type Source } from '@grammata/core/route';
import type { Step } from '@grammata/core/transform';

export const field = (key: string): Source => ({ from: 'field', field: key });
export const always = (value: string | string[]): Source => ({ from: 'constant', value });
/** Text with answers in it: strings are text, lists hold the key of an answer. */
export const text = (...parts: (string | [key: string])[]): Source => ({
  from: 'text',
  segments: parts.map((part): Segment => (typeof part === 'string' ? { text: part } : { field: part[0] })),
});
export const line = (to: string, source: Source | null, cleaning: Step[] = [], more: Partial<Line> = {}): Line => ({
  ...newLine(`line-${to}`, to),
  source,
  cleaning,
  ...more,
});
export const number: Step = { id: 'number.read', params: { decimal: 'either' } };
export const tidy: Step = { id: 'text.trim', params: { collapse: true } };
export const lowered: Step[] = [tidy, { id: 'text.case', params: { to: 'lower' } }];
export const dayFirst: Step = { id: 'date.format', params: { order: 'dayFirst', to: 'date', zone: 'Europe/London' } };

export const dateTime: Step = { id: 'date.format', params: { order: 'dayFirst', to: 'iso', zone: 'Europe/London' } };

/** A draft as it starts. */
export const draft = (
  name: string,
  calls: RouteDefinition['calls'],
  condition: RouteDefinition['condition'] = { all: [] },
): RouteDefinition => ({ format: 1, name, condition, calls, terms: usualTerms });
