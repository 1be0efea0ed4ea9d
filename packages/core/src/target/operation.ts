import type { Json } from '../submission';

export const targetTypes = [
  'text',
  'number',
  'integer',
  'boolean',
  'date',
  'datetime',
  'choice',
  'choices',
  'attachments',
  'file',
  'base64',
  'json',
] as const;
export type TargetType = (typeof targetTypes)[number];

/** One field of a request, as the target describes it. */
export interface TargetField {
  /** The target's own name for it. */
  key: string;
  /** Where its value goes: into the body unless this says otherwise. */
  in?: 'path' | 'query' | 'header';
  /** In the body a JSON Pointer; elsewhere the name of the parameter. */
  pointer: string;
  label: string;
  type: TargetType;
  required: boolean;
  readOnly: boolean;
  /** The only values it takes, when the target says so. */
  options: string[] | null;
  /** What people call its options, where that is not what is sent. */
  optionNames?: Record<string, string>;
  /** What it always is, unless a line fills it. */
  fixed?: Json;
  /** What the target assumes where nothing is sent, when it says so. */
  default?: Json;
  /** Most characters it takes, when the target says so. */
  maxLength: number | null;
  description: string | null;
  /** Of a list: what each item is, where that is no text. */
  items?: 'number' | 'integer' | 'boolean';
  /** What the text has to be, beside its type. */
  format?: 'email' | 'addresses' | 'uri' | 'line';
  /** Least and greatest number. */
  minimum?: number;
  maximum?: number;
  /** What the text has to match, a regular expression that runs in linear time. */
  pattern?: string;
}

/** How a body is written. */
export const bodyKinds = ['json', 'urlencoded', 'multipart', 'xml', 'text', 'raw', 'mail', 'none'] as const;
export type BodyKind = (typeof bodyKinds)[number];

/** Part of what a target answers. */
export interface AnswerField {
  /** A JSON Pointer into the answer. */
  pointer: string;
  label: string;
  type: TargetType;
  /** Of a list of records: what one of them has, with pointers into that one. */
  items?: AnswerField[];
}

/** Methods of requests (RFC 9110 §9, RFC 5789) that an operation may have. */
export const methods = ['POST', 'PUT', 'PATCH', 'GET', 'DELETE'] as const;

/** One thing a target can be asked to do. */
export interface Operation {
  id: string;
  label: string;
  method: (typeof methods)[number];
  /** Below the target's base address; starts with `/`. `{name}` stands for a parameter (RFC 6570 level 1). */
  path: string;
  /** JSON unless it says otherwise. */
  body?: BodyKind;
  /** Of a file of rows: columns that it lacks are added to it. */
  grows?: boolean;
  /** Name of the outermost element of a body in XML. */
  root?: string;
  fields: TargetField[];
  /** True for one that only reads, whatever its method. */
  reads?: boolean;
  /** The GraphQL document that stands in the body, beside the variables that lines fill. */
  graphql?: string;
  /** What it answers when all went well, as far as the target says. */
  answer?: AnswerField[];
  /** True when its answer is a web page by its own description. */
  answersPage?: boolean;
}

/** True for an operation that stores something: one that a route can end in. */
export const isWriting = ({ method, reads }: Pick<Operation, 'method' | 'reads'>): boolean =>
  !reads && (method === 'POST' || method === 'PUT' || method === 'PATCH');

/** True for an operation that only reads. */
export const isReading = ({ method, reads }: Pick<Operation, 'method' | 'reads'>): boolean =>
  method === 'GET' || reads === true;

/** The fields a mapping may fill. */
export const writable = (operation: Operation): TargetField[] => operation.fields.filter(field => !field.readOnly);

const itemExamples: Record<NonNullable<TargetField['items']>, Json> = {
  number: [7.4],
  integer: [71, 72],
  boolean: [true],
};

/** An example of what a field takes, for people: `2026-11-04`, `Foam`. */
export const exampleFor = (field: TargetField): Json => {
  const examples: Record<TargetType, Json> = {
    text: 'text',
    number: 7.4,
    integer: 3,
    boolean: true,
    date: '2026-11-04',
    datetime: '2026-11-04T07:55:00Z',
    choice: field.options?.[0] ?? 'text',
    choices: field.items ? itemExamples[field.items] : (field.options?.slice(0, 2) ?? []),
    attachments: [{ name: 'outfall.jpg', url: 'https://…' }],
    file: { name: 'outfall.jpg', url: 'https://…', type: 'image/jpeg', size: 48213 },
    base64: { name: 'outfall.jpg', url: 'https://…', type: 'image/jpeg', size: 48213 },
    json: {},
  };
  return examples[field.type];
};
