import type { TargetField, TargetType } from '@grammata/core/target';

/** What the types of fields are called. */
export const typeNames: Record<TargetType, string> = {
  text: 'text',
  number: 'number',
  integer: 'whole number',
  boolean: 'true or false',
  date: 'date',
  datetime: 'date and time',
  choice: 'one option',
  choices: 'list',
  attachments: 'files, as links',
  file: 'file, its content',
  base64: 'file in base64',
  json: 'any JSON',
};

/** What a text is by its format. */
export const formatNames: Record<NonNullable<TargetField['format']>, string> = {
  email: 'e-mail address',
  addresses: 'e-mail addresses',
  uri: 'URL',
  line: 'one line',
};
