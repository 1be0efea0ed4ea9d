import { html, type Html } from '../page/html';
import type { PracticeForm, Question, SentRecord } from './form';

const hint = (question: Question): Html =>
  html`${question.required && html`<span class="hint">required</span>`}${question.hint && html`<span class="hint">${question.hint}</span>`}`;

function control({ id, kind, options = [], required, ask }: Question): Html {
  const must = required ? html` required` : '';
  if (kind === 'pick')
    return html`<select id="${id}" name="${id}" ${must}>
      <option value="">choose…</option>
      ${options.map(each => html`<option>${each}</option>`)}
    </select>`;
  if (kind === 'lines') return html`<textarea id="${id}" name="${id}" rows="3"></textarea>`;
  if (kind === 'docs') return html`<input id="${id}" type="file" name="${id}" multiple accept="image/*" />`;
  if (kind === 'consent')
    return html`<label class="check"><input type="checkbox" name="${id}" value="yes" />${ask}</label>`;
  const type = kind === 'mail' ? 'email' : kind === 'figure' ? 'number' : 'text';
  return html`<input id="${id}" type="${type}" name="${id}" ${must} autocomplete="off" />`;
}

function block(question: Question): Html {
  if (question.kind === 'consent') return html`<div class="q">${control(question)}</div>`;
  if (question.kind === 'picks') {
    const boxes = (question.options ?? []).map(
      each => html`<label class="check"><input type="checkbox" name="${question.id}" value="${each}" />${each}</label>`,
    );
    const other = html`<label class="check" for="${question.id}-other">Other:</label
      ><input id="${question.id}-other" type="text" name="${question.id}" placeholder="what was it?" />`;
    return html`<fieldset class="q">
      <legend>${question.ask}${hint(question)}</legend>
      ${boxes}${other}
    </fieldset>`;
  }
  return html`<div class="q">
    <label for="${question.id}">${question.ask}${hint(question)}</label>${control(question)}
  </div>`;
}

const outcome = ({ status, message }: SentRecord) =>
  status !== null && status < 400 ? html`taken (${status})` : html`<span class="bad">${message}</span>`;

/** The builder's page: where answers go, the form itself, and what was sent. */
export function builderPage(
  form: PracticeForm,
  { address, secret, sent }: { address: string; secret: string; sent: SentRecord[] },
  said: Html | null,
): Html {
  return html`<h1>${form.title}</h1>
    <p class="soft">${form.intro}</p>
    <section class="where" aria-labelledby="where">
      <strong id="where">Where answers go</strong>
      <form method="post" action="/builders/sampling-report/address">
        <input
          type="url"
          name="address"
          aria-label="Address that answers go to"
          value="${address}"
          placeholder="paste an intake’s address"
          required
        /><input
          type="text"
          name="secret"
          aria-label="Secret to sign with"
          value="${secret}"
          placeholder="secret to sign with, if any (whsec_…)"
          autocomplete="off"
        /><button>Save</button>
      </form>
      <div class="soft">
        ${
          address
            ? `Every answer is posted there as JSON${secret ? ', signed as Standard Webhooks has it' : ''}.`
            : 'Nowhere yet: paste the address of an intake.'
        }
      </div>
    </section>
    ${said}
    <form method="post" action="/builders/sampling-report/answers" enctype="multipart/form-data">
      ${form.questions.map(block)}<button>Send report</button>
    </form>
    <h2>Sent lately</h2>
    ${
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
          </table>`
    }`;
}
