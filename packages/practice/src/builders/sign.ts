import { createHmac, randomBytes } from 'node:crypto';

/** The headers that sign a message as Standard Webhooks (spec 1.0.0) has it; `at` in ms since the epoch. */
export function signedHeaders(secret: string, body: string, at: number): Record<string, string> {
  const id = `msg_${randomBytes(8).toString('hex')}`;
  const timestamp = String(Math.floor(at / 1000));
  const key = Buffer.from(secret.replace(/^whsec_/, ''), 'base64');
  const signature = createHmac('sha256', key).update(`${id}.${timestamp}.${body}`).digest('base64');
  return { 'webhook-id': id, 'webhook-timestamp': timestamp, 'webhook-signature': `v1,${signature}` };
}

/** A fresh secret as the standard writes it: `whsec_` and 24 bytes in base64. */
export const freshSecret = (): string => `whsec_${randomBytes(24).toString('base64')}`;
