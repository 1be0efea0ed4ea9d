import type { Operation, TargetField, TargetType } from './operation';

const field = (
  key: string,
  label: string,
  more: Partial<TargetField> = {},
  type: TargetType = 'text',
): TargetField => ({
  key,
  pointer: `/${key}`,
  label,
  type,
  required: false,
  readOnly: false,
  options: null,
  maxLength: null,
  description: null,
  ...more,
});

const several = 'Several stand with commas between';

/** What a mail server can be asked to do: to send a mail (RFC 5322). */
export const sendMail: Operation = {
  id: 'sendMail',
  label: 'Send a mail',
  method: 'POST',
  path: '',
  body: 'mail',
  fields: [
    field('from', 'From', { required: true, format: 'addresses' }),
    field('to', 'To', { required: true, format: 'addresses', description: several }),
    field('cc', 'Copy to', { format: 'addresses', description: several }),
    field('bcc', 'Blind copy to', { format: 'addresses', description: several }),
    field('reply_to', 'Replies go to', { format: 'addresses' }),
    field('subject', 'Subject', { required: true, format: 'line' }),
    field('text', 'Text'),
    field('html', 'Text as HTML'),
    field('attachments', 'Attachments', {}, 'file'),
  ],
  answer: [],
};
