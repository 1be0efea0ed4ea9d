export const interests = ['Water sampling', 'Bank walks', 'School visits', 'Data entry', 'Fundraising'];

export interface Postal {
  street?: string;
  town?: string;
  postcode?: string;
  country?: string;
}

/** What the roster knows of a person. */
export interface Contact {
  id: string;
  given_name: string;
  family_name?: string;
  email: string;
  phone?: string;
  born?: string;
  postal?: Postal;
  interests?: string[];
  may_contact?: boolean;
  tags?: string[];
  note?: string;
  created_at: string;
  updated_at: string;
}

export interface Complaint {
  /** JSON Pointer into the body, as a fragment (RFC 6901 §6). */
  pointer: string;
  detail: string;
}

/** Longest name that is kept: longer ones are cut without a word, as real systems do. */
const LONGEST_NAME = 30;

const isText = (value: unknown): value is string => typeof value === 'string';
const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const rules: Record<string, (value: unknown) => string | null> = {
  given_name: value => (isText(value) && value.trim() !== '' ? null : 'is required'),
  family_name: value => (isText(value) ? null : 'must be text'),
  email: value => (isText(value) && /^[^\s@]+@[^\s@]+\.[a-z]{2,}$/i.test(value) ? null : 'must be an e-mail address'),
  phone: value => (isText(value) && /^\+[1-9]\d{6,14}$/.test(value) ? null : 'must be in E.164, such as +442079460142'),
  born: value =>
    isText(value) && /^\d{4}-\d\d-\d\d$/.test(value) && !Number.isNaN(Date.parse(value)) ? null : 'must be a date',
  postal: value => (isRecord(value) && Object.values(value).every(isText) ? null : 'must be an object of texts'),
  interests: value => (Array.isArray(value) && value.every(isText) ? null : 'must be a list of texts'),
  tags: value => (Array.isArray(value) && value.every(isText) ? null : 'must be a list of texts'),
  may_contact: value => (typeof value === 'boolean' ? null : 'must be true or false'),
  note: value => (isText(value) ? null : 'must be text'),
};

/** Everything the roster has against a contact; when it is `whole`, what is missing too. */
export function complaintsAbout(body: unknown, whole: boolean): Complaint[] {
  if (!isRecord(body)) return [{ pointer: '#', detail: 'must be an object' }];
  const missing = whole ? ['given_name', 'email'].filter(key => body[key] === undefined) : [];
  return [
    ...missing.map(key => ({ pointer: `#/${key}`, detail: 'is required' })),
    ...Object.entries(body).flatMap(([key, value]) => {
      const rule = Object.hasOwn(rules, key) ? rules[key] : undefined;
      if (!rule) return [{ pointer: `#/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`, detail: 'is unknown' }];
      const detail = value === null && key !== 'given_name' && key !== 'email' ? null : rule(value);
      return detail === null ? [] : [{ pointer: `#/${key}`, detail }];
    }),
  ];
}

/** The values as the roster keeps them: names cut, e-mail in small letters, interests it does not know left out. */
export function kept(body: Record<string, unknown>): Partial<Contact> {
  const values = Object.fromEntries(
    Object.entries(body).map(([key, value]) => [key, value ?? undefined]),
  ) as Partial<Contact>;
  const name = (text: string | undefined) => text?.trim().slice(0, LONGEST_NAME);
  return {
    ...values,
    ...(values.given_name !== undefined && { given_name: name(values.given_name)! }),
    ...(values.family_name !== undefined && { family_name: name(values.family_name)! }),
    ...(values.email !== undefined && { email: values.email.toLowerCase() }),
    ...(values.interests !== undefined && { interests: values.interests.filter(each => interests.includes(each)) }),
  };
}
