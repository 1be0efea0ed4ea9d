import { IsIn, IsString, MaxLength } from 'class-validator';
import { md5 } from 'js-md5';
import { sha256 } from 'js-sha256';
import { asText, type Json } from '../../submission';
import { defineTransform } from '../define';

const forms = { hex: 'SHA-256 in hex', md5: 'MD5 in hex', uuid: 'a UUID' } as const;
type Form = keyof typeof forms;

class HashTextParams {
  @IsIn(Object.keys(forms)) as: Form = 'hex';
  /** Goes before the value: the same value of two forms gives two identifiers. */
  @IsString() @MaxLength(200) before: string = '';
}

/**
 * An identifier out of the value itself: the same each time. SHA-256 (FIPS 180-4), as hex or as UUID version 8 (RFC 9562 §5.8); MD5
 * (RFC 1321) for systems that key their records so: it hides nothing.
 */
export const hashText = defineTransform<HashTextParams>({
  id: 'id.hash',
  family: 'id',
  label: 'Hash',
  summary: 'The same identifier each time for the same value.',
  params: HashTextParams,
  asks: [
    { name: 'as', label: 'Algorithm', choices: Object.entries(forms).map(([value, label]) => ({ value, label })) },
    { name: 'before', label: 'Prefix', optional: true },
  ],
  accepts: 'any',
  returns: 'text',
  explain: params => forms[params.as],
  apply(value, params): Json {
    const text = params.before + (typeof value === 'object' ? JSON.stringify(value) : asText(value));
    if (params.as === 'md5') return md5(text);
    const hex = sha256(text);
    if (params.as === 'hex') return hex;
    const variant = ((parseInt(hex[16]!, 16) & 3) | 8).toString(16);
    return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-${variant}${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
  },
  examples: [
    // FIPS 180-4's example for “abc”.
    {
      params: { as: 'hex', before: '' },
      in: 'abc',
      out: 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad',
    },
    {
      params: { as: 'hex', before: 'a' },
      in: 'bc',
      out: 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad',
    },
    // RFC 1321, A.5.
    { params: { as: 'md5', before: '' }, in: 'message digest', out: 'f96b697d7cb7938d525a2f31aaf161d0' },
    { params: { as: 'md5', before: 'a' }, in: 'bc', out: '900150983cd24fb0d6963f7d28e17f72' },
    { params: { as: 'uuid', before: '' }, in: 'abc', out: 'ba7816bf-8f01-8fea-8141-40de5dae2223' },
    { params: { as: 'uuid', before: 'ab' }, in: 'c', out: 'ba7816bf-8f01-8fea-8141-40de5dae2223' },
  ],
});
