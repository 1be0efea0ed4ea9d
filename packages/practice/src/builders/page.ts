import { html, type Html } from '../page/html';
import type { Carried } from './catalogue';
import type { Question, SentRecord } from './form';
import { editKinds } from './edits';
import type { BuilderState } from './state';

/** Rows a table question offers. */
const ROWS = 3;

const hint = (question: Question): Html =>
  html`${question.required && html`<span class="hint">required</span>`}${question.hint && html`<span class="hint">${question.hint}</span>`}`;

const choices = (options: string[]): Html =>
  html`<option value="">choose…</option>
    ${options.map(each => html`<option>${each}</option>`)}`;

function control({ id, kind, options = [], required, ask }: Question): Html {
  const must = required ? html` required` : '';
  if (kind === 'pick')
    return html`<select id="${id}" name="${id}" ${must}>
      ${choices(options)}
    </select>`;
  if (kind === 'lines') return html`<textarea id="${id}" name="${id}" rows="3" ${must}></textarea>`;
  if (kind === 'docs') return html`<input id="${id}" type="file" name="${id}" multiple accept="image/*,video/*" />`;
  if (kind === 'consent')
    return html`<label class="check"><input type="checkbox" name="${id}" value="yes" ${must} />${ask}</label>`;
  const type = kind === 'mail' ? 'email' : kind === 'figure' ? 'number' : 'text';
  return html`<input id="${id}" type="${type}" name="${id}" ${must} autocomplete="off" />`;
}

const part = (name: string, label: string, options?: string[]): Html =>
  options
    ? html`<select name="${name}" aria-label="${label}">
        ${choices(options)}
      </select>`
    : html`<input type="text" name="${name}" aria-label="${label}" placeholder="${label}" autocomplete="off" />`;

function block(question: Question): Html {
  const { id, kind, ask, parts = [] } = question;
  if (kind === 'consent') return html`<div class="q">${control(question)}</div>`;
  const group = (inside: Html) =>
    html`<fieldset class="q">
      <legend>${ask} ${hint(question)}</legend>
      ${inside}
    </fieldset>`;
  if (kind === 'picks') {
    const boxes = (question.options ?? []).map(
      each => html`<label class="check"><input type="checkbox" name="${id}" value="${each}" />${each}</label>`,
    );
    return group(
      html`${boxes}<label class="check" for="${id}-other">Other:</label
        ><input id="${id}-other" type="text" name="${id}" placeholder="what was it?" />`,
    );
  }
  if (kind === 'rows')
    return group(
      html`${Array.from({ length: ROWS }, (_, row) => html`<div class="cells">${parts.map(each => part(`${id}.${row}.${each.id}`, `${each.ask}, row ${row + 1}`, each.options))}</div>`)}`,
    );
  if (kind === 'place')
    return group(html`<div class="cells">${parts.map(each => part(`${id}.${each.id}`, each.ask))}</div>`);
  return html`<div class="q"><label for="${id}">${ask} ${hint(question)}</label>${control(question)}</div>`;
}

const outcome = ({ status, message, tries }: SentRecord) =>
  html`${status !== null && status < 400 ? `taken (${status})` : html`<span class="bad">${message}</span>`}${tries > 1 && `, try ${tries}`}`;

const selected = (is: boolean) => (is ? html` selected` : '');

/** Webhook address and in which shape: what the owner of a form sets in a builder. */
function settings({ id, kind }: Carried, state: BuilderState, publicUrl: string): Html {
  const { address, secret, via, generation, method } = state;
  const where = {
    push: html`<input
      type="url"
      name="address"
      aria-label="Address that answers go to"
      value="${address}"
      placeholder="paste an intake’s address"
      required
    />`,
    mail: html`<input
        type="email"
        name="address"
        aria-label="Address that answers go to"
        value="${address}"
        placeholder="paste an intake’s mail address"
        required
      /><input
        type="text"
        name="via"
        aria-label="Mail server"
        value="${via}"
        placeholder="mail server, host:port"
        required
      />`,
    feed: html`<input
      type="text"
      name="secret"
      aria-label="Token that readers need"
      value="${secret}"
      required
      autocomplete="off"
    />`,
  };
  const whereWords = {
    push: address
      ? `Every submission is sent there${secret ? ', signed (Standard Webhooks)' : ''}.`
      : 'No address yet: paste the address of an intake.',
    mail: address ? 'Every submission is mailed there.' : 'No address yet: paste the mail address of an intake.',
    feed: `Read the rows at ${publicUrl}/builders/${id}/rows with the token as bearer; next page: after, from /more/after.`,
  };
  return html`<section class="where" aria-labelledby="where-answers-go">
    <strong id="where-answers-go">Webhook address</strong>
    <form method="post" action="/builders/${id}/settings">
      ${where[kind.way]}
      ${kind.signs && html`<input type="text" name="secret" aria-label="Secret to sign with" value="${secret}" placeholder="secret to sign with, if any (whsec_…)" autocomplete="off" />`}
      <label
        >Payload
        <select name="generation">
          <option value="now" ${selected(generation === 'now')}>${kind.generations.now}</option>
          <option value="earlier" ${selected(generation === 'earlier')}>${kind.generations.earlier}</option>
        </select></label
      >
      ${
        kind.choosesMethod &&
        html`<label
          >Sent by
          <select name="method">
            <option ${selected(method === 'POST')}>POST</option>
            <option ${selected(method === 'GET')}>GET</option>
          </select></label
        >`
      }
      <button>Save</button>
    </form>
    <form method="post" action="/builders/${id}/test"><button class="quiet">Send a test</button></form>
    <div class="soft">${whereWords[kind.way]}</div>
  </section>`;
}

/** What the owner of a form does to it. */
const changing = ({ id, form }: Carried, { edits }: BuilderState): Html =>
  html`<section class="where" aria-labelledby="change-the-form">
    <strong id="change-the-form">Change the form</strong>
    <form method="post" action="/builders/${id}/form">
      <select name="question" aria-label="Question to change">
        ${form.questions.map(each => html`<option value="${each.id}">${each.ask}</option>`)}
      </select>
      <select name="what" aria-label="What to do with it">
        ${Object.entries(editKinds).map(([key, words]) => html`<option value="${key}">${words}</option>`)}
      </select>
      <input
        type="text"
        name="to"
        aria-label="What it is to be"
        placeholder="new wording, option or question"
        autocomplete="off"
      />
      <button>Apply change</button>
    </form>
    ${
      (edits ?? []).length > 0 &&
      html`<form method="post" action="/builders/${id}/form">
        <button class="quiet" name="what" value="back">Undo all changes</button>
      </form>`
    }
  </section>`;

/** The builder's page: where answers go, the form itself, and what was sent. */
export function builderPage(carried: Carried, state: BuilderState, publicUrl: string, said: Html | null): Html {
  const { id, form, kind } = carried;
  return html`<h1>${form.title}</h1>
    <p class="soft">${form.intro}</p>
    ${settings(carried, state, publicUrl)} ${said}
    <form method="post" action="/builders/${id}/answers" enctype="multipart/form-data">
      ${form.questions.map(block)}<button>${form.send}</button>
    </form>
    ${
      kind.way === 'feed'
        ? html`<h2>Rows of the feed</h2>
            <p class="soft">${state.rows.length} rows.</p>`
        : html`<h2>Sent recently</h2>
            ${sentList(state.sent)}`
    }
    ${changing(carried, state)}`;
}

const sentList = (sent: SentRecord[]): Html =>
  sent.length === 0
    ? html`<p class="soft">Nothing yet.</p>`
    : html`<table>
        <tr>
          <th>When</th>
          <th>Entry</th>
          <th>To</th>
          <th>Outcome</th>
        </tr>
        ${sent.map(
          each =>
            html`<tr>
              <td>${each.at.slice(0, 19).replace('T', ' ')}</td>
              <td>${each.entry}</td>
              <td>${each.to}</td>
              <td>${outcome(each)}</td>
            </tr>`,
        )}
      </table>`;
