/** Text that may stand in HTML as it is. */
export class Html {
  constructor(readonly text: string) {}
}

const escape = (text: string) => text.replace(/[&<>"']/g, each => `&#${each.charCodeAt(0)};`);
const rendered = (value: unknown): string =>
  value instanceof Html
    ? value.text
    : Array.isArray(value)
      ? value.map(rendered).join('')
      : value === null || value === undefined || value === false
        ? ''
        : escape(String(value));

/** HTML with every value escaped, but those that are HTML already. */
export const html = (parts: TemplateStringsArray, ...values: unknown[]): Html =>
  new Html(parts.map((part, index) => part + (index < values.length ? rendered(values[index]) : '')).join(''));

/** A whole page of the practice yard. */
export function page(title: string, crumb: string, content: Html): string {
  return `<!doctype html>${
    html`<html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width" />
        <title>${title} · practice yard</title>
        <link rel="stylesheet" href="/yard.css" />
      </head>
      <body>
        <header><a href="/">Practice yard</a><span>${crumb}</span></header>
        <main>${content}</main>
      </body>
    </html>`.text
  }`;
}
