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

/** A change in a sentence, as somebody would say it who looks after the other side. */
export function changeWords({ change, question, operation, field, was, now }: Told): string {
  const asked = question === null ? '' : quoted(question);
  const place = field === null ? '' : quoted(field.replace(/^\//, '').replaceAll('/', ' › '));
  const where = operation === null ? '' : ` of ${operation}`;
  switch (change) {
    case 'added':
      return `${asked} is asked, and was not before.`;
    case 'gone':
      return `${asked} is not asked any more.`;
    case 'reworded':
      return `${quoted(was)} is worded ${quoted(now)} now.`;
    case 'replaced':
      return `${asked} comes under another key: ${quoted(now)} in place of ${quoted(was)}.`;
    case 'kind':
      return `${asked} is answered with something else: ${asText(now)}, and not ${asText(was)}.`;
    case 'notation':
      return `${asked} is written otherwise: such as ${quoted(now)}, and not ${quoted(was)}.`;
    case 'option-added':
      return question === null
        ? `${place}${where} takes ${quoted(now)}, too.`
        : `${asked} has an option more: ${quoted(now)}.`;
    case 'option-gone':
      return question === null
        ? `${place}${where} does not take ${quoted(was)} any more.`
        : `${asked} has an option less: ${quoted(was)}.`;
    case 'option-renamed':
      return question === null
        ? `${place}${where} calls the option ${quoted(was)} ${quoted(now)} now.`
        : `${asked}: the option ${quoted(was)} is called ${quoted(now)} now.`;
    case 'single-to-list':
      return `${asked} takes several answers now.`;
    case 'list-to-single':
      return `${asked} takes one answer only now.`;
    case 'envelope':
      return 'The same questions come in messages that are built otherwise.';
    case 'silent':
      return `Nothing came since ${asText(was)}, which is longer than ever.`;
    case 'flood':
      return `${asText(now)} came in a day; ${asText(was)} was the most before.`;
    case 'another-form':
      return `Another form comes to this address, beside ${quoted(was)}.`;
    case 'credentials':
      return `The credentials are not taken any more: it answers ${asText(now)}.`;
    case 'refused':
      return field === null
        ? `${operation} refuses what it took before. ${asText(now)}`
        : `${operation} refuses ${place} for a reason that it never gave before: ${asText(now)}`;
    case 'answer':
      return now === null
        ? `The answers${where} do not have ${place} any more.`
        : `${place} in the answers${where} is ${asText(now)} now, and was ${asText(was)}.`;
    case 'stored':
      return `${place}${where} is not stored as it is sent any more: ${quoted(was)} is there as ${quoted(now)}.`;
    case 'operation-added':
      return `${operation} is new.`;
    case 'operation-gone':
      return `${operation} is not offered any more.`;
    case 'operation-moved':
      return `${asText(was)} is at ${asText(now)} now.`;
    case 'field-added':
      return `${place}${where} is new${isRequired(now) ? ', and required' : ''}.`;
    case 'field-gone':
      return `${place}${where} is not there any more.`;
    case 'field-renamed':
      return `${place}${where} is called ${quoted(asText(now).replace(/^\//, ''))} now.`;
    case 'required':
      return `${place}${where} is required now.`;
    case 'optional':
      return `${place}${where} is not required any more.`;
    case 'type':
      return `${place}${where} is ${asText(now)} now, and was ${asText(was)}.`;
    case 'format':
      return `${place}${where} is written as ${asText(now) || 'anything'} now, and was ${asText(was) || 'anything'}.`;
    case 'narrowed':
      return `${place}${where} takes less: ${limits(now)}, and was ${limits(was)}.`;
    case 'widened':
      return `${place}${where} takes more: ${limits(now)}, and was ${limits(was)}.`;
  }
}

const isRequired = (now: Json): boolean =>
  typeof now === 'object' && now !== null && !Array.isArray(now) && now.required === true;
