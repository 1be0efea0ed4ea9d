import type { FieldKind } from '@grammata/core/submission';

/** A mark for each kind of question, and its name for those who can't see it. */
export const kindMarks: Record<FieldKind, { mark: string; word: string }> = {
  text: { mark: 'T', word: 'text' },
  multiline: { mark: '¶', word: 'long text' },
  name: { mark: 'A', word: 'name' },
  email: { mark: '@', word: 'e-mail' },
  phone: { mark: '✆', word: 'phone' },
  url: { mark: '↗', word: 'link' },
  number: { mark: '#', word: 'number' },
  boolean: { mark: '✓', word: 'yes or no' },
  date: { mark: '◫', word: 'date' },
  time: { mark: '◷', word: 'time' },
  datetime: { mark: '◷', word: 'date and time' },
  choice: { mark: '≡', word: 'choose one' },
  choices: { mark: '☰', word: 'choose many' },
  address: { mark: '⌂', word: 'address' },
  files: { mark: '▤', word: 'files' },
  table: { mark: '▦', word: 'table' },
  json: { mark: '{}', word: 'data' },
};
