import { distance } from 'fastest-levenshtein';
import type { FieldSchema } from '../schema';
import { asText, plainText, type Json } from '../submission';
import { optionFor, optionName, type TargetField } from '../target';
import { compileChain, newStep, type Step } from '../transform';
import type { Part } from './match';
import { dateOrderOf, decimalOf } from './notation';
import { regionOf, type OtherAnswers } from './region';

/** A question as the form was seen to ask it. */
type Asked = Pick<FieldSchema, 'kind' | 'options'>;

/**
 * The cleaning that brings the answers of a question into what a field takes, as far as kind, type and answers tell.
 * `part` names what is taken out of a name or an address that was asked for as a whole; `others` is what else was answered.
 */
export function cleaningFor(
  asked: Asked,
  values: Json[],
  field: TargetField,
  part?: Part,
  others: readonly OtherAnswers[] = [],
): Step[] {
  const taken: Step[] = part ? [partStep(part)] : [];
  const needed = (steppers[field.type] ?? none)({ asked, values, field, isPart: part !== undefined, others });
  return [...taken, ...needed];
}

interface Case {
  asked: Asked;
  values: Json[];
  field: TargetField;
  isPart: boolean;
  /** What else was answered: a country, an address. */
  others: readonly OtherAnswers[];
}

const none = (): Step[] => [];

const partStep = (part: Part): Step =>
  part === 'given' || part === 'family'
    ? newStep('name.part', { part })
    : newStep('address.part', { part: part === 'city' ? 'locality' : part, doubtful: 'take' });

const isList = ({ asked, values }: Case) =>
  asked.kind === 'choices' || (asked.kind !== 'files' && asked.kind !== 'table' && values.some(Array.isArray));

const untidy = /^\s|\s$|[ \t]{2,}/;
/** True for words that say that a number is to be called from anywhere. */
const international = /e\.?164|international/i;

function forText(the: Case): Step[] {
  const { asked, values, field } = the;
  if (field.options && field.options.length > 0)
    return [...(isList(the) ? [newStep('list.item', { number: 1, from: 'start' })] : []), optionsStep(the)];
  const fieldText = `${field.key} ${field.label} ${field.description ?? ''}`;
  const cleaning: Step[] = [];
  if (asked.kind === 'files')
    cleaning.push(newStep('files.part', { give: 'url' }), newStep('list.join', { separator: '\n' }));
  else if (asked.kind === 'table') cleaning.push(newStep('table.text', { betweenCells: ': ', betweenRows: '; ' }));
  else if (isList(the)) cleaning.push(newStep('list.join', { separator: '; ' }));
  else if (asked.kind === 'number' || values.some(value => typeof value === 'number'))
    cleaning.push(newStep('text.of'));
  else if ((asked.kind === 'address' || asked.kind === 'name') && values.some(value => typeof value === 'object')) {
    const between = asked.kind === 'name' ? ' ' : ', ';
    cleaning.push(newStep('table.text', { betweenCells: between, betweenRows: between, names: false }));
  } else if (values.some(value => typeof value === 'string' && untidy.test(value)))
    cleaning.push(newStep('text.trim', { collapse: true }));
  if (asked.kind === 'phone' && international.test(fieldText))
    cleaning.push(newStep('phone.format', { to: 'e164', ...regionOf(values, the.others) }));
  if (asked.kind === 'email' && values.some(value => asText(value) !== asText(value).toLowerCase()))
    cleaning.push(newStep('text.case', { to: 'lower' }));
  if (/country/i.test(fieldText) && (field.maxLength === 2 || /iso|alpha.?2|two.letter|code/i.test(fieldText)))
    cleaning.push(newStep('country.code', { to: 'alpha2' }));
  if (field.maxLength !== null && values.some(value => asText(value).length > field.maxLength!))
    cleaning.push(newStep('text.shorten', { to: field.maxLength, mark: '…' }));
  return cleaning;
}

const readNumber = ({ values, others }: Case): Step => newStep('number.read', { decimal: decimalOf(values, others) });

function forNumber(the: Case): Step[] {
  const { values, field } = the;
  // Options that are numbers are chosen by what they are called.
  if (field.options?.length && field.optionNames)
    return [
      ...(isList(the) ? [newStep('list.item', { number: 1, from: 'start' })] : []),
      optionsStep(the),
      readNumber(the),
    ];
  const read = values.every(value => typeof value === 'number') ? [] : [readNumber(the)];
  const isWhole = field.type === 'integer';
  const broken = values.some(value => {
    const number = compileChain(read).run(value);
    return typeof number === 'number' && !Number.isInteger(number);
  });
  return isWhole && broken ? [...read, newStep('number.round', { places: 0, way: 'nearest' })] : read;
}

function forDate({ values, field, others }: Case): Step[] {
  const to = field.type === 'date' ? 'date' : 'iso';
  return [newStep('date.format', { order: dateOrderOf(values, others), to, zone: '' })];
}

function forChoices(the: Case): Step[] {
  const { items, optionNames } = the.field;
  if (items && !(optionNames && the.field.options)) {
    const read = items === 'boolean' ? newStep('yesno.read', { yes: '', no: '' }) : readNumber(the);
    const isRead = the.values.flat().every(value => typeof value === (items === 'boolean' ? 'boolean' : 'number'));
    return isRead && the.values.every(Array.isArray) ? [] : [newStep('list.each', { steps: [read] })];
  }
  return [
    ...(the.values.every(Array.isArray) ? [] : [newStep('list.read', { separator: '' })]),
    ...(the.field.options ? [optionsStep(the)] : []),
    ...(items ? [newStep('list.each', { steps: [readNumber(the)] })] : []),
  ];
}

/** Alike enough for an option to be proposed for an answer. */
const ALIKE = 0.7;

/** The table from what people chose to what the target lists: by spelling, else by the most alike that is alike enough. */
function optionsStep({ asked, values, field }: Case): Step {
  const chosen =
    asked.options.length > 0
      ? asked.options.map(each => each.value)
      : [...new Set(values.flat().map(asText))].slice(0, 60);
  return newStep('choice.match', { options: optionsFor(chosen, field), otherwise: 'problem', nearest: 1 });
}

/** The list of options by which answers become what a field takes, each that is spelt otherwise with the most alike. */
export function optionsFor(chosen: readonly string[], field: Pick<TargetField, 'options' | 'optionNames'>): string {
  const options = field.options ?? [];
  const lines = chosen.flatMap(answer => {
    if (options.includes(answer) || optionFor(field, answer) !== undefined) return [];
    const [best] = options
      .map(option => ({ option, alike: likeness(plainText(answer), plainText(optionName(field, option))) }))
      .sort((a, b) => b.alike - a.alike);
    return best && best.alike >= ALIKE ? [`${answer} = ${best.option}`] : [];
  });
  const listed = options.map(option => {
    const name = optionName(field, option);
    return name === option || name.includes('=') ? option : `${name} = ${option}`;
  });
  return [...lines, ...listed].join('\n');
}

/** 1 for the same; one that stands whole in the other counts as alike. */
function likeness(a: string, b: string): number {
  if (a === '' || b === '') return 0;
  const [short, long] = a.length < b.length ? [a, b] : [b, a];
  const within = ` ${long} `.includes(` ${short} `) && short.length > 2 ? 0.8 : 0;
  return Math.max(within, 1 - distance(a, b) / long.length);
}

const steppers: Partial<Record<TargetField['type'], (the: Case) => Step[]>> = {
  text: forText,
  choice: the => (the.field.options ? forText(the) : []),
  number: forNumber,
  integer: forNumber,
  date: forDate,
  datetime: forDate,
  boolean: ({ values }) =>
    values.every(value => typeof value === 'boolean') ? [] : [newStep('yesno.read', { yes: '', no: '' })],
  choices: forChoices,
  json: ({ asked }) => (asked.kind === 'table' ? [newStep('table.objects', { columns: '' })] : []),
};
