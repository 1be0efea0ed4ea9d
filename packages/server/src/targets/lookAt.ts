import type { DocumentInput, DocumentView, TargetInput } from '@grammata/contract';
import type { SecurityScheme } from '@grammata/core/target';
import { DecodeFault } from '../decoding';
import type { Offers } from './connection';
import type { Offer } from './offer';

/** What a document or an example says before a target is made of it: how much it offers, the address it names, who asks. */
export async function lookAt(offers: Offers, { reads, document }: DocumentInput): Promise<DocumentView> {
  const nothing = { says: '', baseUrl: null, auth: null, secret: null, text: document };
  if (reads === 'mail') return { ...nothing, fault: 'A mail server has no document.' };
  const offer = await offers.offer(reads, document).catch((error: unknown): Offer => {
    if (error instanceof DecodeFault) return { fault: error.message };
    throw error;
  });
  if ('fault' in offer) return { ...nothing, fault: offer.fault };
  const { says, servers = [], asksFor = [], credentials, text = document } = offer;
  const baseUrl = servers.find(each => /^https?:\/\//i.test(each) && URL.canParse(each))?.replace(/\/$/, '') ?? null;
  const auth = credentials?.auth ?? asksFor.map(authOf)[0] ?? null;
  return { fault: null, says, baseUrl, auth, secret: credentials?.secret || null, text };
}

/** A target's input without the secrets that its example shows: they are taken in as credentials, or not at all. */
export async function withoutShownSecrets<T extends Pick<TargetInput, 'reads' | 'document'>>(
  offers: Offers,
  input: T,
): Promise<T> {
  if (input.reads !== 'example' || !input.document) return input;
  const offer = await offers.offer('example', input.document);
  return 'fault' in offer ? input : Object.assign(input, { document: offer.text ?? input.document });
}

const authOf = (scheme: SecurityScheme): NonNullable<DocumentView['auth']> => scheme;
