import { html, type Html } from '../page/html';

/** What of a target can be changed, and in which ways. */
export interface Changeable {
  /** The address that the forms post to. */
  action: string;
  heading: string;
  /** Sent along, unseen. */
  hidden?: Record<string, string>;
  /** The name of what is picked, its label, and what there is. */
  part: { name: string; label: string; options: Record<string, string> };
  kinds: Record<string, string>;
  isChanged: boolean;
}

/** A part of a page that changes what a target takes, as those who look after it do. */
export function changeSection({ action, heading, hidden = {}, part, kinds, isChanged }: Changeable): Html {
  const id = heading.toLowerCase().replaceAll(/[^a-z]+/g, '-');
  const along = Object.entries(hidden).map(
    ([name, value]) => html`<input type="hidden" name="${name}" value="${value}" />`,
  );
  const options = (all: Record<string, string>) =>
    Object.entries(all).map(([value, words]) => html`<option value="${value}">${words}</option>`);
  return html`<section class="where" aria-labelledby="${id}">
    <strong id="${id}">${heading}</strong>
    <form method="post" action="${action}">
      ${along}
      <select name="${part.name}" aria-label="${part.label}">
        ${options(part.options)}
      </select>
      <select name="what" aria-label="What to do with it">
        ${options(kinds)}
      </select>
      <input type="text" name="to" aria-label="What it is to be" placeholder="new name or option" autocomplete="off" />
      <button>Apply change</button>
    </form>
    ${
      isChanged &&
      html`<form method="post" action="${action}">
        ${along}
        <button class="quiet" name="what" value="back">Undo all changes</button>
      </form>`
    }
  </section>`;
}
