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
function replyPage(response: ServerResponse, title: string, text: string): void {
  const page = `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeHtml(title)}</title>
<style>body{font:18px/1.5 Georgia,serif;max-width:34rem;margin:18vh auto 0;padding:0 1.5rem;color:#1f1c17;background:#faf8f2}h1{font-size:1.6rem;margin:0 0 .5rem}p{margin:0;color:#575044;white-space:pre-line}
@media(prefers-color-scheme:dark){body{background:#191714;color:#ece6d8}p{color:#b9b09d}}</style>
<main><h1>${escapeHtml(title)}</h1><p>${escapeHtml(text)}</p></main>`;
  response
    .writeHead(200, {
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
export function replyAnswer(response: ServerResponse, intake: IntakeRow, answer: Json, takesPage: boolean): void {
  const said = filled(intake.replyText, answer);
  if ('json' in said) return replyJson(response, 200, said.json);
  if (takesPage) return replyPage(response, 'Thank you', said.text);
  response.writeHead(200, { 'content-type': 'text/plain; charset=utf-8' }).end(said.text);
}

/** The answer that the intake's owner chose, for a submission that is safely stored. */
export function reply(response: ServerResponse, intake: IntakeRow, arrivalId: string, isBrowserTab: boolean): void {
  const place = intake.reply === 'redirect' ? redirectTo(intake.replyText) : null;
  if (place !== null) {
    response.writeHead(303, { location: place }).end();
  } else if (intake.reply === 'page') {
    replyPage(response, 'Thank you', intake.replyText || 'Your answers have been received.');
  } else if (isBrowserTab) {
    replyPage(response, 'It arrived', `“${intake.name}” heard this request and kept it. Look for it in Grammata.`);
  } else {
    replyJson(response, intake.reply === 'ok' ? 200 : 202, { id: arrivalId });
  }
}
