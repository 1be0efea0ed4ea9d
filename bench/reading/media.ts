import type { Json } from '@grammata/core/submission';
import { textOf, withKnownNames, type Answer, type Draw, type Half } from './draw';
import { shapes, type Shape } from './shapes';

/** A message as it is sent, with what can be read of it. */
export interface Rendered {
  body: Uint8Array;
  type: string | null;
  query: string;
  how: string;
  /** True where questions have identifiers, are worded, and where values are texts alone. */
  isKeyed: boolean;
  isWorded: boolean;
  isText: boolean;
  /** True where several chosen stay several. */
  isListed: boolean;
  /** What can be told of the form and of each submission. */
  tells: { form: 'both' | 'name' | 'none'; id: boolean; time: boolean };
}

interface Medium {
  id: string;
  half: Half;
  render(draw: Draw): Rendered;
}

const bytes = (text: string) => new TextEncoder().encode(text);

/** Several submissions in one document. */
function batched(draw: Draw, shape: Shape): { document: Json; how: string } {
  const { names, chance, submissions } = draw;
  const shared = shape.shared?.(draw) ?? {};
  const all = submissions.map(each => shape.one(draw, each));
  if (all.length === 1) {
    const wrap = chance.below(4);
    const one = { ...shared, ...all[0]! };
    if (wrap === 1) return { document: { event: 'submitted', [names.wrapper]: one }, how: 'wrapped' };
    if (wrap === 2) return { document: { [names.wrapper]: JSON.stringify(one), attempt: 1 }, how: 'in a text' };
    return { document: one, how: 'alone' };
  }
  const way = chance.below(Object.keys(shared).length > 0 ? 2 : 3);
  if (way === 0) return { document: { ...shared, [names.list]: all }, how: 'list' };
  if (way === 1)
    return {
      document: {
        ...shared,
        [names.list]: Object.fromEntries(all.map((each, index) => [submissions[index]!.id, each])),
      },
      how: 'map',
    };
  return { document: all, how: 'top list' };
}

/** What a document of this shape tells; where nobody could know the names, only what stands out is asked for. */
const told = ({ names }: Draw): Rendered['tells'] => ({
  form: names.isUnknown ? 'none' : 'both',
  id: !names.isUnknown,
  time: true,
});

function ofShape(draw: Draw): Shape {
  const shape = draw.chance.of(shapes.filter(each => each.half === draw.half));
  if (shape.isBeside) withKnownNames(draw);
  return shape;
}

const cell = (text: string, mark: string) =>
  new RegExp(`["\\n${mark}]`).test(text) ? `"${text.replaceAll('"', '""')}"` : text;

function table(draw: Draw, mark: string): string {
  const { shown } = draw.names;
  const behind = draw.chance.is(0.3);
  const asked = draw.submissions[0]!.answers.map(each => each.asked.label);
  const head = behind ? [...asked, shown.id, shown.time] : [shown.id, shown.time, ...asked];
  const rows = draw.submissions.map(({ id, time, answers }) => {
    const cells = answers.map(textOf);
    return behind ? [...cells, id, time] : [id, time, ...cells];
  });
  return [head, ...rows].map(row => row.map(each => cell(each, mark)).join(mark)).join('\r\n');
}

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');
const valuesOf = (answer: Answer): string[] =>
  answer.value === null ? [] : Array.isArray(answer.value) ? answer.value : [answer.value];

const textual = { isText: true, tells: { form: 'name', id: true, time: true } } as const;

const lines = ({ names, form, submissions: [one] }: Draw): string[] => [
  `${names.shown.form}: ${form.name}`,
  `${names.shown.id}: ${one!.id}`,
  `${names.shown.time}: ${one!.time}`,
];

const mailOf = (subject: string, type: string, body: string) =>
  bytes(
    [
      'From: Forms <forms@example.org>',
      'To: desk@example.com',
      `Subject: ${subject}`,
      'Date: Tue, 03 Mar 2026 10:00:00 +0000',
      'Message-ID: <x1@example.org>',
      'MIME-Version: 1.0',
      `Content-Type: ${type}; charset=utf-8`,
      'Content-Transfer-Encoding: 8bit',
      '',
      body,
    ].join('\r\n'),
  );

/** Only one submission is told by these. */
const alone = (draw: Draw): Draw => {
  withKnownNames(draw);
  draw.submissions.length = 1;
  return draw;
};

const boundary = 'line8f2';
const part = (name: string, value: string) =>
  `--${boundary}\r\nContent-Disposition: form-data; name="${name}"\r\n\r\n${value}\r\n`;

/** Pairs of a form that is sent as names and values. */
function pairsOf(draw: Draw, byLabel: boolean): [string, string][] {
  const {
    names,
    form,
    submissions: [one],
  } = draw;
  const brackets = draw.chance.is(0.5);
  return [
    [names.id, one!.id],
    [names.time, one!.time],
    [`${names.form}[${names.formKey}]`, form.key],
    [`${names.form}[${names.formName}]`, form.name],
    ...one!.answers.flatMap((answer): [string, string][] => {
      const name = byLabel ? answer.asked.label : answer.asked.key;
      if (answer.asked.sort === 'choices') return valuesOf(answer).map(each => [brackets ? `${name}[]` : name, each]);
      return [[name, textOf(answer)]];
    }),
  ];
}

const isListedAs = (draw: Draw) =>
  draw.submissions.every(each => each.answers.every(({ value }) => !Array.isArray(value) || value.length > 1));

export const media: Medium[] = [
  ...(['fitted', 'held', 'unread'] as const).map((half): Medium => ({
    id: 'json',
    half,
    render(draw) {
      const shape = ofShape(draw);
      const { document, how } = batched(draw, shape);
      return {
        body: bytes(JSON.stringify(document)),
        type: 'application/json',
        query: '',
        how: `json ${shape.id}, ${how}`,
        isKeyed: shape.isKeyed,
        isWorded: shape.isWorded,
        isText: false,
        isListed: true,
        tells: told(draw),
      };
    },
  })),
  {
    id: 'json lines',
    half: 'held',
    render(draw) {
      const shape = draw.chance.of(shapes.filter(each => each.half === draw.half && !each.shared));
      if (shape.isBeside) withKnownNames(draw);
      return {
        body: bytes(draw.submissions.map(each => JSON.stringify(shape.one(draw, each))).join('\n')),
        type: draw.chance.of(['application/x-ndjson', 'text/plain']),
        query: '',
        how: `json lines of ${shape.id}`,
        isKeyed: shape.isKeyed,
        isWorded: shape.isWorded,
        isText: false,
        isListed: true,
        tells: told(draw),
      };
    },
  },
  {
    id: 'csv',
    half: 'fitted',
    render: draw => ({ ...textual, body: bytes(table(draw, ',')), type: 'text/csv', query: '', how: 'csv', isKeyed: false, isWorded: true, isListed: false, tells: { form: 'none', id: true, time: true } }), // prettier-ignore
  },
  {
    id: 'semicolons',
    half: 'held',
    render: draw => ({ ...textual, body: bytes(table(draw, ';')), type: draw.chance.of(['text/csv', 'text/plain']), query: '', how: 'semicolons', isKeyed: false, isWorded: true, isListed: false, tells: { form: 'none', id: true, time: true } }), // prettier-ignore
  },
  {
    id: 'tabs',
    half: 'fitted',
    render: draw => ({ ...textual, body: bytes(table(draw, '\t')), type: 'text/tab-separated-values', query: '', how: 'tabs', isKeyed: false, isWorded: true, isListed: false, tells: { form: 'none', id: true, time: true } }), // prettier-ignore
  },
  ...(['fitted', 'held'] as const).map((half): Medium => ({
    id: half === 'fitted' ? 'xml with attributes' : 'xml with elements',
    half,
    render(draw) {
      const { names, form } = draw;
      const answer = (each: Answer): string =>
          half === 'fitted'
            ? valuesOf(each).map(value => `<item ${names.key}="${escaped(each.asked.key)}" ${names.label}="${escaped(each.asked.label)}">${escaped(value)}</item>`).join('') // prettier-ignore
            : `<item><${names.key}>${escaped(each.asked.key)}</${names.key}><${names.label}>${escaped(each.asked.label)}</${names.label}>${valuesOf(each).map(value => `<${names.value}>${escaped(value)}</${names.value}>`).join('')}</item>`; // prettier-ignore
      const one = draw.submissions.map(
        each =>
          `<entry><${names.id}>${each.id}</${names.id}><${names.time}>${each.time}</${names.time}><items>${each.answers.map(answer).join('')}</items></entry>`,
      );
      const formText = `<${names.form}><${names.formKey}>${form.key}</${names.formKey}><${names.formName}>${escaped(form.name)}</${names.formName}></${names.form}>`;
      return {
        body: bytes(`<?xml version="1.0"?><root>${formText}<all>${one.join('')}</all></root>`),
        type: 'application/xml',
        query: '',
        how: this.id,
        isKeyed: true,
        isWorded: true,
        isText: true,
        isListed: isListedAs(draw),
        tells: told(draw),
      };
    },
  })),
  ...(['fitted', 'held'] as const).map((half): Medium => ({
    id: half === 'fitted' ? 'urlencoded' : 'urlencoded by wording',
    half,
    render(draw) {
      alone(draw);
      const query = new URLSearchParams(pairsOf(draw, half === 'held')).toString();
      return {
        body: bytes(query),
        type: 'application/x-www-form-urlencoded',
        query: '',
        how: this.id,
        isKeyed: half === 'fitted',
        isWorded: half === 'held',
        isText: true,
        isListed: isListedAs(draw),
        tells: told(draw),
      };
    },
  })),
  {
    id: 'query',
    half: 'held',
    render(draw) {
      alone(draw);
      const query = new URLSearchParams(pairsOf(draw, false)).toString();
      return { body: bytes(''), type: null, query, how: 'query', isKeyed: true, isWorded: false, isText: true, isListed: isListedAs(draw), tells: told(draw) }; // prettier-ignore
    },
  },
  {
    id: 'multipart',
    half: 'fitted',
    render(draw) {
      alone(draw);
      const body = `${pairsOf(draw, false).map(([name, value]) => part(name, value)).join('')}--${boundary}--\r\n`; // prettier-ignore
      return { body: bytes(body), type: `multipart/form-data; boundary=${boundary}`, query: '', how: 'multipart', isKeyed: true, isWorded: false, isText: true, isListed: isListedAs(draw), tells: told(draw) }; // prettier-ignore
    },
  },
  {
    id: 'mail of lines',
    half: 'fitted',
    render(draw) {
      alone(draw);
      const body = [...lines(draw), '', ...draw.submissions[0]!.answers.map(each => `${each.asked.label}: ${textOf(each).replaceAll('\n', '\r\n')}`)].join('\r\n'); // prettier-ignore
      return { ...textual, body: mailOf('New entry', 'text/plain', body), type: 'message/rfc822', query: '', how: 'mail of lines', isKeyed: false, isWorded: true, isListed: false }; // prettier-ignore
    },
  },
  {
    id: 'mail with a table',
    half: 'held',
    render(draw) {
      alone(draw);
      const row = (label: string, value: string) =>
        `<tr><td><b>${escaped(label)}</b></td><td>${escaped(value).replaceAll('\n', '<br>')}</td></tr>`;
      const rows = [
        ...lines(draw).map(each => row(each.slice(0, each.indexOf(': ')), each.slice(each.indexOf(': ') + 2))),
        ...draw.submissions[0]!.answers.map(each => row(each.asked.label, textOf(each))),
      ];
      return { ...textual, body: mailOf('New entry', 'text/html', `<html><body><table>${rows.join('')}</table></body></html>`), type: 'message/rfc822', query: '', how: 'mail with a table', isKeyed: false, isWorded: true, isListed: false }; // prettier-ignore
    },
  },
  {
    id: 'text of lines',
    half: 'held',
    render(draw) {
      alone(draw);
      const body = [...lines(draw), '----------', ...draw.submissions[0]!.answers.map(each => `${each.asked.label}: ${textOf(each)}`)].join('\n'); // prettier-ignore
      return { ...textual, body: bytes(body), type: 'text/plain', query: '', how: 'text of lines', isKeyed: false, isWorded: true, isListed: false }; // prettier-ignore
    },
  },
  {
    id: 'text of blocks',
    half: 'fitted',
    render(draw) {
      alone(draw);
      const answers = draw.submissions[0]!.answers.filter(each => each.value !== null);
      draw.submissions[0]!.answers = answers;
      const body = answers.map(each => `${each.asked.label}\n${textOf(each)}`).join('\n\n');
      return { ...textual, body: bytes(body), type: 'text/plain', query: '', how: 'text of blocks', isKeyed: false, isWorded: true, isListed: false, tells: { form: 'none', id: false, time: false } }; // prettier-ignore
    },
  },
  {
    id: 'bars',
    half: 'unread',
    render: draw => ({ ...textual, body: bytes(table(draw, ',')), type: draw.chance.of(['text/csv', 'application/octet-stream']), query: '', how: 'commas, whatever the type', isKeyed: false, isWorded: true, isListed: false, tells: { form: 'none', id: true, time: true } }), // prettier-ignore
  },
  {
    id: 'xml with answers as attributes',
    half: 'unread',
    render(draw) {
      const { names, form } = draw;
      const one = draw.submissions.map(
        each =>
          `<reply ${names.id}="${each.id}" ${names.time}="${each.time}">${each.answers.map(answer => `<q ${names.key}="${escaped(answer.asked.key)}" ${names.label}="${escaped(answer.asked.label)}">${valuesOf(answer).map(value => `<v>${escaped(value)}</v>`).join('')}</q>`).join('')}</reply>`, // prettier-ignore
      );
      return {
        body: bytes(
          `<all><${names.form} ${names.formKey}="${form.key}" ${names.formName}="${escaped(form.name)}"/>${one.join('')}</all>`,
        ),
        type: draw.chance.of(['application/xml', 'text/xml']),
        query: '',
        how: 'xml with attributes and values inside',
        isKeyed: true,
        isWorded: true,
        isText: true,
        isListed: isListedAs(draw),
        tells: told(draw),
      };
    },
  },
  {
    id: 'urlencoded list',
    half: 'unread',
    render(draw) {
      alone(draw);
      const {
        names,
        form,
        submissions: [one],
      } = draw;
      const pairs: [string, string][] = [
        [names.id, one!.id],
        [names.time, one!.time],
        [`${names.form}[${names.formKey}]`, form.key],
        [`${names.form}[${names.formName}]`, form.name],
        ...one!.answers.flatMap((answer, index): [string, string][] => [
          [`answers[${index}][${names.key}]`, answer.asked.key],
          [`answers[${index}][${names.label}]`, answer.asked.label],
          ...(answer.asked.sort === 'choices'
            ? valuesOf(answer).map((each): [string, string] => [`answers[${index}][${names.value}][]`, each])
            : ([[`answers[${index}][${names.value}]`, textOf(answer)]] as [string, string][])),
        ]),
      ];
      return { body: bytes(new URLSearchParams(pairs).toString()), type: 'application/x-www-form-urlencoded', query: '', how: 'urlencoded list', isKeyed: true, isWorded: true, isText: true, isListed: isListedAs(draw), tells: told(draw) }; // prettier-ignore
    },
  },
  {
    id: 'mail with a list of terms',
    half: 'unread',
    render(draw) {
      alone(draw);
      const row = (label: string, value: string) =>
        `<dt>${escaped(label)}:</dt><dd>${escaped(value).replaceAll('\n', '<br>')}</dd>`;
      const rows = [
        ...lines(draw).map(each => row(each.slice(0, each.indexOf(': ')), each.slice(each.indexOf(': ') + 2))),
        ...draw.submissions[0]!.answers.map(each => row(each.asked.label, textOf(each))),
      ];
      return { ...textual, body: mailOf('New entry', 'text/html', `<p>Hello,</p><dl>${rows.join('')}</dl><p>Bye</p>`), type: 'message/rfc822', query: '', how: 'mail with a list of terms', isKeyed: false, isWorded: true, isListed: false }; // prettier-ignore
    },
  },
  {
    id: 'text of bullets',
    half: 'unread',
    render(draw) {
      alone(draw);
      const body = [`New entry`, '', ...lines(draw), '', ...draw.submissions[0]!.answers.map(each => `- ${each.asked.label}: ${textOf(each).replaceAll('\n', '\n  ')}`)].join('\n'); // prettier-ignore
      return { ...textual, body: bytes(body), type: null, query: '', how: 'text of bullets', isKeyed: false, isWorded: true, isListed: false }; // prettier-ignore
    },
  },
];
