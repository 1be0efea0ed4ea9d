import type { ServerResponse } from 'node:http';
import type { Json } from '@grammata/core/submission';
import { filled } from './filled';
import type { IntakeRow } from '../store';

export function replyJson(
  response: ServerResponse,
  status: number,
  body: unknown,
  headers: Record<string, string> = {},
): void {
  const text = JSON.stringify(body);
  response
    .writeHead(status, {
      'content-type': status < 400 ? 'application/json' : 'application/problem+json',
      'content-length': Buffer.byteLength(text),
      ...headers,
    })
    .end(text);
}

const escapeHtml = (text: string) => text.replace(/[&<>"']/g, each => `&#${each.charCodeAt(0)};`);

/** A page for a person whose browser came directly. */
function replyPage(response: ServerResponse, title: string, text: string, status = 200): void {
  const page = `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeHtml(title)}</title>
<style>body{font:18px/1.5 Georgia,serif;max-width:34rem;margin:18vh auto 0;padding:0 1.5rem;color:#1f1c17;background:#faf8f2}h1{font-size:1.6rem;margin:0 0 .5rem}p{margin:0;color:#575044;white-space:pre-line}
@media(prefers-color-scheme:dark){body{background:#191714;color:#ece6d8}p{color:#b9b09d}}</style>
<main><h1>${escapeHtml(title)}</h1><p>${escapeHtml(text)}</p></main>`;
  response
    .writeHead(status, {
      'content-type': 'text/html; charset=utf-8',
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
    })
    .end(page);
}

/** Where a visitor is sent: a web address as it may stand in a header (WHATWG URL Standard, serialised); null for any other text. */
export function redirectTo(text: string): string | null {
  if (!/^https?:\/\//i.test(text) || !URL.canParse(text)) return null;
  const { href } = new URL(text);
  return /^[\u0021-\u007e]+$/.test(href) ? href : null;
}

/** What the target answered, for a sender that waited for it. */
export const replyAnswer = (response: ServerResponse, intake: IntakeRow, answer: Json, takesPage: boolean): void =>
  replyFilled(response, 200, 'Thank you', filled(intake.replyText, answer), takesPage);

/** Why the submission of a sender that waited does not go on, as the intake's owner words it: with 422 (RFC 9110 §15.5.21). */
export const replyRefusal = (response: ServerResponse, intake: IntakeRow, refusal: Refusal, takesPage: boolean): void =>
  replyFilled(response, 422, 'Not accepted', filled(intake.refusalText, { ...refusal }), takesPage);

/** Why a submission does not go on: in words, and as the target answered where it did. */
export interface Refusal {
  message: string;
  response: Json;
}

function replyFilled(
  response: ServerResponse,
  status: number,
  title: string,
  body: ReturnType<typeof filled>,
  takesPage: boolean,
): void {
  if ('json' in body) return replyJson(response, status, body.json, { 'content-type': 'application/json' });
  if (takesPage) return replyPage(response, title, body.text, status);
  response.writeHead(status, { 'content-type': 'text/plain; charset=utf-8' }).end(body.text);
}

/** The answer that the intake's owner chose, for a submission that is safely stored. */
export function reply(response: ServerResponse, intake: IntakeRow, arrivalId: string, isBrowserTab: boolean): void {
  const place = intake.reply === 'redirect' ? redirectTo(intake.replyText) : null;
  if (place !== null) {
    response.writeHead(303, { location: place }).end();
  } else if (intake.reply === 'page') {
    replyPage(response, 'Thank you', intake.replyText || 'Your answers have been received.');
  } else if (isBrowserTab) {
    replyPage(response, 'Received', `“${intake.name}” received this request. Find it in Grammata.`);
  } else {
    replyJson(response, intake.reply === 'ok' ? 200 : 202, { id: arrivalId });
  }
}
