import { randomBytes } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import path from 'node:path';
import express, { Router } from 'express';
import { request as send } from 'undici';
import { html, page } from '../page/html';
import { Kept } from '../store';
import { answerListMessage } from './answerList';
import type { SentRecord } from './form';
import { builderPage } from './page';
import { readFilledPage } from './read';
import { samplingReport } from './samplingReport';
import { signedHeaders } from './sign';

interface BuilderState {
  address: string;
  /** Signs every message when it is not empty. */
  secret: string;
  sent: SentRecord[];
}

const MOST_SENT = 20;
const file = /^[0-9a-f-]{36}$/;

/** The builder that carries the sampling report: a page to fill it in, and the sending of each answer. */
export function samplingReportBuilder(folder: string, publicUrl: () => string) {
  const state = new Kept<BuilderState>(folder, 'sampling-report', { address: '', secret: '', sent: [] });
  const files = path.join(folder, 'files');
  const router = Router();
  const show = (said: Parameters<typeof builderPage>[2]) =>
    page(samplingReport.title, 'a form builder', builderPage(samplingReport, state.value, said));

  router.get('/builders/sampling-report', (_request, response) => void response.send(show(null)));

  router.post('/builders/sampling-report/address', express.urlencoded({ extended: false }), (request, response) => {
    const address = String((request.body as Record<string, unknown>).address ?? '').trim();
    if (address !== '' && !URL.canParse(address))
      return void response.status(422).send(show(html`<p class="bad">That is no address.</p>`));
    state.value.address = address;
    state.value.secret = String((request.body as Record<string, unknown>).secret ?? '').trim();
    state.save();
    response.redirect(303, '/builders/sampling-report');
  });

  router.post('/builders/sampling-report/answers', async (request, response) => {
    const answers = await readFilledPage(
      request,
      samplingReport,
      files,
      (id, name) => `${publicUrl()}/files/${id}/${encodeURIComponent(name)}`,
    );
    const entry = `e-${randomBytes(5).toString('hex')}`;
    const filled = {
      entry,
      sent: new Date().toISOString(),
      answers,
      client: { addr: '192.0.2.14', agent: String(request.headers['user-agent'] ?? '') },
    };
    const record = await post(state.value, entry, answerListMessage(samplingReport, filled));
    state.value.sent = [record, ...state.value.sent].slice(0, MOST_SENT);
    state.save();
    const said =
      record.status !== null && record.status < 400
        ? html`<p role="status"><strong>Thank you.</strong> Your report was sent on.</p>`
        : html`<p role="status" class="bad"><strong>Your report was not taken.</strong> ${record.message}</p>`;
    response.send(show(said));
  });

  router.get('/files/:id/:name', (request, response) => {
    const at = path.join(files, request.params.id, 'content');
    if (!file.test(request.params.id) || !existsSync(at))
      return void response.status(404).send('There is no such file.');
    response.type(path.extname(request.params.name) || 'application/octet-stream');
    createReadStream(at).pipe(response);
  });

  /** Sets where answers go, unless somebody did. */
  const pointAt = (address: string) => {
    if (state.value.address) return;
    state.value.address = address;
    state.save();
  };
  return { router, pointAt };
}

async function post(
  { address, secret }: Pick<BuilderState, 'address' | 'secret'>,
  entry: string,
  { contentType, body }: ReturnType<typeof answerListMessage>,
): Promise<SentRecord> {
  const at = new Date().toISOString();
  if (!address) return { at, entry, to: '', status: null, message: 'No address was set.' };
  try {
    const answer = await send(address, {
      method: 'POST',
      headers: {
        'content-type': contentType,
        'user-agent': 'practice-answer-list/1',
        ...(secret ? signedHeaders(secret, body, Date.now()) : {}),
      },
      body,
    });
    await answer.body.dump();
    return { at, entry, to: address, status: answer.statusCode, message: `answered ${answer.statusCode}` };
  } catch (error) {
    return { at, entry, to: address, status: null, message: `no answer: ${(error as Error).message}` };
  }
}
