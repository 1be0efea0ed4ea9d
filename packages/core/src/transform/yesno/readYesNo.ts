import { IsString, MaxLength } from 'class-validator';
import { asText, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

class ReadYesNoParams {
  /** What is sent for yes and no; empty for true and false. */
  @IsString() @MaxLength(50) yes: string = '';
  @IsString() @MaxLength(50) no: string = '';
}

// Common practice, no source: how yes and no are written in English, German, French and Spanish, and by checkboxes.
const yes = /^(y|yes|yeah|yep|true|t|on|1|x|✓|✔|checked|accepted|agreed?|ja|j|wahr|oui|o|vrai|s[ií]|verdadero)$/iu;
const no = /^(n|no|nope|false|f|off|0|✗|unchecked|declined|none|nein|falsch|non|faux|falso)$/iu;

/** Reads yes and no in the ways they are written. */
export const readYesNo = defineTransform<ReadYesNoParams>({
  id: 'yesno.read',
  family: 'yes/no',
  label: 'Read as yes or no',
  summary: 'Reads yes and no as people write them, and gives true or false or words of your own.',
  params: ReadYesNoParams,
  asks: [
    { name: 'yes', label: 'Yes becomes', optional: true, hint: 'true' },
    { name: 'no', label: 'No becomes', optional: true, hint: 'false' },
  ],
  accepts: ['boolean', 'text', 'choice', 'choices', 'number'],
  returns: 'boolean',
  explain: params => (params.yes || params.no ? `yes as “${params.yes}”, no as “${params.no}”` : 'read as yes or no'),
  apply(value, params): Json | Problem {
    const one = Array.isArray(value) && value.length === 1 ? value[0]! : value;
    const text = asText(one).trim().replace(/[.!]$/, '');
    const is =
      yes.test(text) || /^(yes|ja|oui|sí|si)\b[,;:]/iu.test(text)
        ? true
        : no.test(text) || /^(no|nein|non)\b[,;:]/iu.test(text)
          ? false
          : null;
    if (is === null) return new Problem('yesno.unreadable', `“${text}” is neither yes nor no.`, value);
    if (is) return params.yes === '' ? true : params.yes;
    return params.no === '' ? false : params.no;
  },
  examples: [
    { params: { yes: '', no: '' }, in: 'Yes', out: true },
    { params: { yes: '', no: '' }, in: 'nein', out: false },
    { params: { yes: 'Y', no: 'N' }, in: true, out: 'Y' },
    { params: { yes: '', no: '' }, in: ['on'], out: true },
    { params: { yes: '', no: '' }, in: 'yes, please', out: true },
    { params: { yes: '', no: '' }, in: 'maybe', out: { problem: 'yesno.unreadable' } },
  ],
});
