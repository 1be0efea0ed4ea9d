import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import express, { Router } from 'express';
import { page, type Html, html } from '../page/html';
import { FileStore } from '../store';
import type { Carried } from './catalogue';
import { isDocs, type Answers, type Filled } from './form';
import { builderPage } from './page';
import { readFilledPage } from './read';
import { isTaken, isWorthRetrying, sendMessage, sendNotification, type SendOutcome } from './sender';
import { edited, isEdit, type FormEdit } from './edits';
import type { BuilderState } from './state';
import { testAnswers } from './testAnswers';

const MOST_SENT = 20;
const MOST_ROWS = 500;
const ROWS_A_PAGE = 50;
/** When an answer that was not taken is sent again, in ms after the try before. */
const RETRIES = [2_000, 15_000, 60_000, 300_000];

export const FEED_TOKEN = 'yard-feed-51ad';

/** What a builder of the yard can be told from outside. */
export interface Builder {
  router: Router;
  /** Sets where answers go, unless somebody did. */
  pointAt(address: string, via?: string): void;
  /** Changes its form, and has these answers sent. */
  change(edits: FormEdit[], answers: Answers[]): Promise<void>;
  /** Puts past rows into a feed that has none. */
  fill(rows: Record<string, unknown>[]): void;
  stop(): void;
}

/** A form builder: a page to fill its form in, its settings, and the sending of each answer, again when it is not taken. */
export function builder({ id, form: first, kind }: Carried, folder: string, publicUrl: () => string): Builder {
  const state = new FileStore<BuilderState>(folder, id, {
    address: '',
    via: '',
    secret: kind.way === 'feed' ? FEED_TOKEN : '',
    generation: 'now',
    method: 'POST',
    edits: [],
    sent: [],
    rows: [],
  });
  const here = `/builders/${id}`;
  const files = path.join(folder, 'files');
  const timers = new Set<NodeJS.Timeout>();
  const router = Router();
  /** The form as it is asked now. */
  const formNow = () => edited(first, state.value.edits ?? []);
  const show = (said: Html | null) =>
    page(first.title, 'a form builder', builderPage({ id, form: formNow(), kind }, state.value, publicUrl(), said));
  const edit = (made: FormEdit[]) => {
    state.value.edits = made;
    state.save();
  };

  router.get(here, (_request, response) => void response.send(show(null)));

  router.post(`${here}/settings`, express.urlencoded({ extended: false }), (request, response) => {
    const text = (name: string) => String((request.body as Record<string, unknown>)[name] ?? '').trim();
    const address = text('address');
    if (address !== '' && kind.way === 'push' && !URL.canParse(address))
      return void response.status(422).send(show(html`<p class="bad" role="status">That is no address.</p>`));
    Object.assign(state.value, {
      address,
      ...(kind.way === 'mail' ? { via: text('via') } : { secret: text('secret') }),
      generation: text('generation') === 'earlier' ? 'earlier' : 'now',
      method: kind.choosesMethod && text('method') === 'GET' ? 'GET' : 'POST',
    });
    state.save();
    response.redirect(303, here);
  });

  /** Changes the form, as its owner does; or puts it back. */
  router.post(`${here}/form`, express.urlencoded({ extended: false }), (request, response) => {
    const text = (name: string) => String((request.body as Record<string, unknown>)[name] ?? '').trim();
    if (text('what') === 'back') {
      edit([]);
      return void response.redirect(303, here);
    }
    const made = { question: text('question'), what: text('what') as FormEdit['what'], to: text('to') };
    if (!isEdit(made, formNow()))
      return void response.status(422).send(show(html`<p class="bad" role="status">Say what it is to be.</p>`));
    edit([...(state.value.edits ?? []), made]);
    response.redirect(303, here);
  });

  router.post(`${here}/answers`, async (request, response) => {
    const answers = await readFilledPage(
      request,
      formNow(),
      files,
      (file, name) => `${publicUrl()}/files/${file}/${encodeURIComponent(name)}`,
    );
    response.send(show(await deliver(answers, String(request.headers['user-agent'] ?? ''))));
  });

  /** What builders call a test: every question with something in it that says what it is. */
  router.post(`${here}/test`, async (request, response) => {
    response.send(show(await deliver(testAnswers(formNow()), String(request.headers['user-agent'] ?? ''))));
  });

  router.get(`${here}/rows`, (request, response) => {
    if (kind.way !== 'feed') return void response.status(404).json({ title: 'This builder has no feed.' });
    if (request.header('authorization') !== `Bearer ${state.value.secret}`)
      return void response
        .status(401)
        .set('www-authenticate', 'Bearer')
        .json({ title: 'The token is missing or wrong.' });
    const from = Math.max(0, Number(request.query.after) || 0);
    const rows = state.value.rows.slice(from, from + ROWS_A_PAGE);
    if (state.value.generation === 'earlier') return void response.json(rows);
    const next = from + rows.length < state.value.rows.length ? String(from + rows.length) : null;
    response.json({ log: first.title, rows, more: { after: next } });
  });

  async function deliver(answers: Answers, agent: string): Promise<Html> {
    const filled: Filled = {
      entry: `e-${randomBytes(5).toString('hex')}`,
      sent: new Date().toISOString(),
      answers: withContent(answers),
      client: { addr: '192.0.2.14', agent },
    };
    if (kind.way === 'feed') {
      state.value.rows = [kind.row!(formNow(), filled), ...state.value.rows].slice(0, MOST_ROWS);
      state.save();
      return html`<p role="status"><strong>Thank you.</strong> It was written down, to be read with the next feed.</p>`;
    }
    const outcome = await post(filled, 1);
    return isTaken(outcome)
      ? html`<p role="status"><strong>Thank you.</strong> Your answers were sent on.</p>`
      : html`<p role="status" class="bad"><strong>Your answers were not taken.</strong> ${outcome.message}</p>`;
  }

  /** Sends an answer; when it is not taken, again a while later, as builders do. */
  async function post(filled: Filled, tries: number): Promise<SendOutcome> {
    const { address, secret, via } = state.value;
    const outcome = !address
      ? { status: null, message: 'No address was set.' }
      : kind.way === 'mail'
        ? await sendNotification(address, via, kind.notification!(formNow(), filled, state.value))
        : await sendMessage(address, secret, `practice-${kind.id}/1`, kind.message!(formNow(), filled, state.value));
    const record = { at: filled.sent, entry: filled.entry, to: address, tries, ...outcome };
    state.value.sent = [record, ...state.value.sent.filter(each => each.entry !== filled.entry)].slice(0, MOST_SENT);
    state.save();
    const pause = RETRIES[tries - 1];
    if (address && pause !== undefined && isWorthRetrying(outcome)) {
      const timer = setTimeout(() => {
        timers.delete(timer);
        // What goes wrong in a try by itself is told at the next one.
        post(filled, tries + 1).catch(() => undefined);
      }, pause);
      timer.unref();
      timers.add(timer);
    }
    return outcome;
  }

  /** The files' own bytes, for builders that send them along. */
  function withContent(answers: Answers): Answers {
    if (kind.id !== 'multipart') return answers;
    const laid = formNow().questions.map(question => {
      const answer = answers[question.id];
      if (!isDocs(question, answer)) return [question.id, answer];
      return [
        question.id,
        answer.map(doc => {
          const file = path.join(files, doc.href.split('/').at(-2)!, 'content');
          return { ...doc, content: doc.content ?? readFileSync(file) };
        }),
      ];
    });
    return Object.fromEntries(laid.filter(([, answer]) => answer !== undefined)) as Answers;
  }

  return {
    router,
    async change(edits, answers) {
      edit([...(state.value.edits ?? []), ...edits]);
      for (const each of answers) await deliver(each, 'a practised week');
    },
    pointAt(address, via = '') {
      if (state.value.address) return;
      Object.assign(state.value, { address, via });
      state.save();
    },
    fill(rows) {
      if (state.value.rows.length > 0) return;
      state.value.rows = rows.slice(0, MOST_ROWS);
      state.save();
    },
    stop: () => timers.forEach(clearTimeout),
  };
}
