import type { ChangeView } from '@grammata/contract';
import { asText, type Json } from '@grammata/core/submission';

const quoted = (value: Json): string => `“${asText(value)}”`;
const limits = (value: Json): string =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? Object.entries(value)
        .map(([name, each]) => `${name} ${asText(each as Json)}`)
        .join(', ') || 'no limit'
    : asText(value);

type Told = Pick<ChangeView, 'change' | 'question' | 'operation' | 'field' | 'was' | 'now'>;

/** A change in one sentence. */
export function changeWords({ change, question, operation, field, was, now }: Told): string {
  const asked = question === null ? '' : quoted(question);
  const place = field === null ? '' : quoted(field.replace(/^\//, '').replaceAll('/', ' › '));
  const where = operation === null ? '' : ` of ${operation}`;
  switch (change) {
    case 'added':
      return `New question: ${asked}.`;
    case 'gone':
      return `Question removed: ${asked}.`;
    case 'reworded':
      return `Question text changed: ${quoted(was)} → ${quoted(now)}.`;
    case 'replaced':
      return `Key of ${asked} changed: ${quoted(was)} → ${quoted(now)}.`;
    case 'kind':
      return `Answers to ${asked} changed type: ${asText(was)} → ${asText(now)}.`;
    case 'notation':
      return `Answers to ${asked} changed format: such as ${quoted(was)} → ${quoted(now)}.`;
    case 'option-added':
      return question === null
        ? `New option for ${place}${where}: ${quoted(now)}.`
        : `New option for ${asked}: ${quoted(now)}.`;
    case 'option-gone':
      return question === null
        ? `Option removed from ${place}${where}: ${quoted(was)}.`
        : `Option removed from ${asked}: ${quoted(was)}.`;
    case 'option-renamed':
      return question === null
        ? `Option of ${place}${where} renamed: ${quoted(was)} → ${quoted(now)}.`
        : `Option of ${asked} renamed: ${quoted(was)} → ${quoted(now)}.`;
    case 'single-to-list':
      return `${asked} now accepts several answers.`;
    case 'list-to-single':
      return `${asked} now accepts one answer only.`;
    case 'envelope':
      return 'Message structure changed; the questions are the same.';
    case 'silent':
      return `No submission since ${asText(was)}, the longest gap so far.`;
    case 'flood':
      return `${asText(now)} submissions in a day; the maximum before was ${asText(was)}.`;
    case 'another-form':
      return `Another form now uses this address, besides ${quoted(was)}.`;
    case 'credentials':
      return `Credentials are now rejected: status ${asText(now)}.`;
    case 'scheme':
      return `Different credentials required: ${asText(was)} → ${asText(now)}.`;
    case 'refused':
      return field === null
        ? `${operation} now rejects requests it accepted before. ${asText(now)}`
        : `${operation} rejects ${place} for a new reason: ${asText(now)}`;
    case 'answer':
      return now === null
        ? `Responses${where} no longer contain ${place}.`
        : `${place} in responses${where} changed: ${asText(was)} → ${asText(now)}.`;
    case 'stored':
      return `${place}${where} is no longer stored as sent: ${quoted(was)} is stored as ${quoted(now)}.`;
    case 'operation-added':
      return `New operation: ${operation}.`;
    case 'operation-gone':
      return `Operation removed: ${operation}.`;
    case 'operation-moved':
      return asText(was).startsWith('/')
        ? `Path of ${operation!.split(', ').length} operations changed: ${asText(was)} → ${asText(now)}.`
        : `Operation moved: ${asText(was)} → ${asText(now)}.`;
    case 'field-added':
      return `New ${isRequired(now) ? 'required ' : ''}field: ${place}${where}.`;
    case 'field-gone':
      return `Field removed: ${place}${where}.`;
    case 'field-renamed':
      return `Field renamed: ${place}${where} → ${quoted(asText(now).replace(/^\//, ''))}.`;
    case 'required':
      return `${place}${where} is now required.`;
    case 'optional':
      return `${place}${where} is no longer required.`;
    case 'type':
      return `Type of ${place}${where} changed: ${asText(was)} → ${asText(now)}.`;
    case 'format':
      return `Format of ${place}${where} changed: ${asText(was) || 'any'} → ${asText(now) || 'any'}.`;
    case 'narrowed':
      return `Stricter limit for ${place}${where}: ${limits(was)} → ${limits(now)}.`;
    case 'widened':
      return `Looser limit for ${place}${where}: ${limits(was)} → ${limits(now)}.`;
  }
}

const isRequired = (now: Json): boolean =>
  typeof now === 'object' && now !== null && !Array.isArray(now) && now.required === true;
