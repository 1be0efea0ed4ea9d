import { isJsonObject, wordsOf, type FieldKind, type Json } from '../../submission';

/** The general words with which builders state kinds of question. Common practice, no source. */
const statedKinds: [FieldKind, RegExp][] = [
  ['email', /e_?mail|^mail$/],
  ['phone', /phone|tel$|mobile/],
  ['url', /^(url|link|website|uri)/],
  ['files', /file|upload|attach|photo|image|docs?$|document|signature/],
  ['choices', /checkboxes|multi|choices|picks|many|tags|select_?all/],
  ['choice', /choice|pick|select|radio|drop|list|option/],
  ['boolean', /bool|yes_?no|consent|toggle|switch|checkbox|legal|accept/],
  ['number', /num|int|decimal|float|rating|scale|score|stars|opinion|nps|slider/],
  ['datetime', /date_?time|timestamp/],
  ['date', /date|birth/],
  ['time', /^time/],
  ['address', /address/],
  ['table', /table|matrix|grid/],
  ['name', /name/],
  ['multiline', /long|area|multi_?line|paragraph|memo|essay/],
  ['text', /text|short|string|line|input|words/],
];

const dateTime = /^\d{4}-\d\d-\d\d[T ]\d\d:\d\d/;
const date = /^\d{4}-\d\d-\d\d$/;
const time = /^\d{1,2}:\d\d(:\d\d)?$/;
const email = /^[^\s@]+@[^\s@]+\.[^\s@]+$/;
const url = /^https?:\/\/\S+$/i;
const phone = /^\+?[\d\s().\-/]{7,20}$/;

/** The kind of a question from what the payload states, its wording, and its value, in that order of trust. */
export function kindOf(stated: string | null, label: string, value: Json, hasOptions: boolean): FieldKind {
  const byStatement = stated ? statedKind(stated) : null;
  if (Array.isArray(value)) return value.every(isJsonObject) ? 'table' : 'choices';
  if (isJsonObject(value)) return byStatement === 'name' || byStatement === 'address' ? byStatement : objectKind(label);
  if (typeof value === 'boolean') return 'boolean';
  if (typeof value === 'number' && (byStatement === null || byStatement === 'text')) return 'number';
  if (byStatement && byStatement !== 'text') return byStatement;
  if (hasOptions) return 'choice';
  return byWordingAndValue(label, String(value));
}

function statedKind(stated: string): FieldKind | null {
  const name = wordsOf(stated).join('_');
  return statedKinds.find(([, pattern]) => pattern.test(name))?.[0] ?? null;
}

function objectKind(label: string): FieldKind {
  const words = wordsOf(label);
  if (words.includes('address')) return 'address';
  if (words.includes('name')) return 'name';
  return 'json';
}

function byWordingAndValue(label: string, text: string): FieldKind {
  const words = wordsOf(label);
  if (email.test(text)) return 'email';
  if (url.test(text)) return 'url';
  if (dateTime.test(text)) return 'datetime';
  if (date.test(text)) return 'date';
  if (time.test(text)) return 'time';
  if (phone.test(text) && words.some(word => /^(phone|telephone|tel|mobile|cell|fax)$/.test(word))) return 'phone';
  if (text.includes('\n')) return 'multiline';
  if (words.includes('address') && !words.includes('email')) return 'address';
  if (words.at(-1) === 'name' || words.join(' ') === 'your name') return 'name';
  return 'text';
}
