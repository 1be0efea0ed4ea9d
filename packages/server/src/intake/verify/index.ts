import type { VerificationKind } from '@grammata/contract';
import ipaddr from 'ipaddr.js';
import type { Check, Checked, CheckVerdict } from './check';
import { hmac, secretIn, standard, type Rule } from './signature';

export { proofFor, type Proof } from './proving';
export { signingFor, type Signing } from './signature';

export type { Checked, CheckVerdict, Signed } from './check';
export type { Rule } from './signature';

const checks: Record<VerificationKind, Check> = {
  header: secretIn('header'),
  query: secretIn('query'),
  basic: secretIn('basic'),
  hmac,
  standard,
};

/** Whether a request proves what the rule asks for. */
export const verify = (request: Checked, rule: Rule, secrets: string[]): CheckVerdict =>
  checks[rule.kind](request, rule, secrets);

/** Whether an address is one of the allowed ones or in one of the allowed ranges. */
export function isAllowed(address: string | undefined, ranges: readonly string[]): boolean {
  if (ranges.length === 0) return true;
  if (!address || !ipaddr.isValid(address)) return false;
  const parsed = ipaddr.process(address);
  return ranges.some(range => {
    const [network, bits] = range.includes('/') ? ipaddr.parseCIDR(range) : [ipaddr.process(range), undefined];
    if (network.kind() !== parsed.kind()) return false;
    return parsed.match([network, bits ?? (network.kind() === 'ipv4' ? 32 : 128)] as never);
  });
}
