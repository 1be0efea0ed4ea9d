import { IsIn } from 'class-validator';
import { asText, behindLast, withoutEnd, type Json } from '../../submission';
import { defineTransform, Problem } from '../define';

const parts = { address: 'the cleaned address', local: 'the part before @', domain: 'the domain' } as const;
type Part = keyof typeof parts;

class EmailPartParams {
  @IsIn(Object.keys(parts)) give: Part = 'address';
}

/** The HTML Standard's rule for a valid e-mail address. */
const valid =
  /^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)+$/;

/** An e-mail address out of what was typed: without `mailto:`, name and brackets, the domain in small letters; checked. */
export const emailPart = defineTransform<EmailPartParams>({
  id: 'email.clean',
  family: 'e-mail',
  label: 'E-mail address',
  summary: 'Cleans and checks an e-mail address, or takes a part of it.',
  params: EmailPartParams,
  asks: [{ name: 'give', label: 'Return', choices: Object.entries(parts).map(([value, label]) => ({ value, label })) }],
  accepts: ['email', 'text'],
  returns: 'email',
  explain: ({ give }) => (give === 'address' ? 'e-mail address checked' : parts[give]),
  apply(value, { give }): Json | Problem {
    const typed = asText(value).trim();
    const inBrackets = typed.endsWith('>') && typed.includes('<') ? behindLast(typed.slice(0, -1), '<') : typed;
    const bare = withoutEnd(inBrackets.replace(/^mailto:/i, ''), '.,;').replace(/\s+/g, '');
    if (!valid.test(bare)) return new Problem('email.invalid', `“${typed}” is not an e-mail address.`, value);
    const [local = '', domain = ''] = bare.split('@');
    return give === 'local' ? local : give === 'domain' ? domain.toLowerCase() : `${local}@${domain.toLowerCase()}`;
  },
  examples: [
    { params: { give: 'address' }, in: ' M.Adeyemi@Example.ORG ', out: 'M.Adeyemi@example.org' },
    { params: { give: 'address' }, in: 'Wen Xiu <wen.xiu@example.org>', out: 'wen.xiu@example.org' },
    { params: { give: 'domain' }, in: 'mailto:sam@Example.org', out: 'example.org' },
    { params: { give: 'local' }, in: 'sam.k@example.org', out: 'sam.k' },
    { params: { give: 'address' }, in: 'sam at example', out: { problem: 'email.invalid' } },
  ],
});
