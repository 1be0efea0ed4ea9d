import { decode } from '@grammata/core/decode';
import type { Json } from '@grammata/core/submission';

/**
 * Payloads that were written when the reading was done, all of them before any was read. Their first result is told in the bench;
 * what failed was mended afterwards.
 */
export interface Written {
  name: string;
  type: string | null;
  query?: string;
  body: string;
  submissions: {
    /** Key and name, as far as the payload tells them. */
    form?: [key: string | null, name: string | null];
    id?: string;
    at?: string;
    answers: Record<string, Json>;
    /** Question, name of the file. */
    files?: [question: string, name: string][];
  }[];
}

const json = (value: Json): Pick<Written, 'type' | 'body'> => ({
  type: 'application/json',
  body: JSON.stringify(value),
});
const lines = (...all: string[]) => all.join('\n');
const wordsOf = (text: string) =>
  text
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .join(' ');

/** How many of the facts are read right; what is made up counts against it. */
export function scoreWritten({ name, type, query = '', body, submissions }: Written): {
  right: number;
  facts: number;
  wrong: string[];
} {
  const read = decode(new TextEncoder().encode(body), type, query).submissions;
  const result = { right: 0, facts: 0, wrong: [] as string[] };
  const fact = (what: string, isRight: boolean) => {
    result.facts += 1;
    if (isRight) result.right += 1;
    else result.wrong.push(`${name}: ${what}`);
  };
  fact('submissions', read.length === submissions.length);
  submissions.forEach((wanted, index) => {
    const got = read[index];
    if (wanted.form) {
      const [key, called] = wanted.form;
      if (key !== null) fact('form key', got?.form?.key === key);
      if (called !== null) fact('form name', (got?.form?.name ?? got?.form?.key) === called);
    }
    if (wanted.id !== undefined) fact('id', got?.id === wanted.id);
    if (wanted.at !== undefined) fact('time', got?.submittedAt === wanted.at);
    const left = [...(got?.fields ?? [])];
    for (const [label, value] of Object.entries(wanted.answers)) {
      const at = left.findIndex(each => wordsOf(each.label) === wordsOf(label));
      const [field] = at < 0 ? [] : left.splice(at, 1);
      fact(`${label} is there`, field !== undefined);
      fact(`${label} value ${JSON.stringify(field?.value)}`, JSON.stringify(field?.value) === JSON.stringify(value));
    }
    for (const each of left) fact(`extra ${each.label}`, false);
    const files = [...(got?.files ?? [])];
    for (const [question, called] of wanted.files ?? []) {
      const at = files.findIndex(each => each.name === called);
      const [file] = at < 0 ? [] : files.splice(at, 1);
      fact(`file ${called}`, file !== undefined);
      fact(`file of ${question}`, file !== undefined && wordsOf(file.field).endsWith(wordsOf(question)));
    }
    for (const each of files) fact(`extra file ${each.name}`, false);
  });
  return result;
}

export const sixty: Written[] = [
  {
    name: 'flat with a prefix on each answer',
    ...json({
      entry_id: 'E-77',
      entry_date: '2026-02-03 10:11',
      fld_river: 'Alder',
      fld_depth_m: '1.2',
      fld_wading: 'No',
    }),
    submissions: [
      {
        id: 'E-77',
        at: '2026-02-03 10:11',
        answers: { 'Fld river': 'Alder', 'Fld depth m': '1.2', 'Fld wading': 'No' },
      },
    ],
  },
  {
    name: 'answers under content.answers',
    ...json({
      content: {
        form: { id: 'k9', title: 'Dog walk' },
        submission: { id: 's5', submittedAt: '2026-03-03T03:03:03Z' },
        answers: { breed: 'Whippet', leash: true },
      },
    }),
    submissions: [
      { form: ['k9', 'Dog walk'], id: 's5', at: '2026-03-03T03:03:03Z', answers: { Breed: 'Whippet', Leash: true } },
    ],
  },
  {
    name: 'list of ask and reply',
    ...json({
      ticket: 991,
      opened: '2026-01-09T12:00:00Z',
      talk: [
        { ask: 'What broke?', reply: 'The sluice' },
        { ask: 'Since when?', reply: 'Monday' },
        { ask: 'How many people are waiting?', reply: 4 },
      ],
    }),
    submissions: [
      {
        id: '991',
        at: '2026-01-09T12:00:00Z',
        answers: { 'What broke?': 'The sluice', 'Since when?': 'Monday', 'How many people are waiting?': 4 },
      },
    ],
  },
  {
    name: 'dictionary with numbers as keys and parts',
    ...json({
      id: 12,
      created_at: '2026-05-01T05:05:05Z',
      responses: {
        '101': { question: 'Your boat', answer: 'Second Wind' },
        '102': { question: 'Length in metres', answer: '7,5' },
      },
    }),
    submissions: [
      { id: '12', at: '2026-05-01T05:05:05Z', answers: { 'Your boat': 'Second Wind', 'Length in metres': '7,5' } },
    ],
  },
  {
    name: 'two submissions in data',
    ...json({
      has_more: false,
      data: [
        {
          uid: 'a1',
          sent: '2026-06-01T10:00:00Z',
          fields: [
            { title: 'Site', value: 'Ford' },
            { title: 'Litter bags', value: 3 },
          ],
        },
        {
          uid: 'a2',
          sent: '2026-06-02T10:00:00Z',
          fields: [
            { title: 'Site', value: 'Weir' },
            { title: 'Litter bags', value: 0 },
          ],
        },
      ],
    }),
    submissions: [
      { id: 'a1', at: '2026-06-01T10:00:00Z', answers: { Site: 'Ford', 'Litter bags': 3 } },
      { id: 'a2', at: '2026-06-02T10:00:00Z', answers: { Site: 'Weir', 'Litter bags': 0 } },
    ],
  },
  {
    name: 'a change, old and new side by side',
    ...json({
      type: 'entry.updated',
      entry: { id: 'n8', form_name: 'Bench sponsor' },
      previous: { plaque: 'For Ana', size: 'S' },
      current: { plaque: 'For Ana & Luis', size: 'M' },
    }),
    submissions: [{ form: [null, 'Bench sponsor'], id: 'n8', answers: { Plaque: 'For Ana & Luis', Size: 'M' } }],
  },
  {
    name: 'definitions beside, options by id',
    ...json({
      form: {
        slug: 'tea',
        name: 'Tea stall',
        fields: [
          {
            ref: 'f1',
            title: 'Which tea?',
            type: 'choice',
            choices: [
              { ref: 'c1', label: 'Mint' },
              { ref: 'c2', label: 'Black' },
            ],
          },
          {
            ref: 'f2',
            title: 'Cakes',
            type: 'choices',
            choices: [
              { ref: 'c7', label: 'Plum' },
              { ref: 'c8', label: 'Apple' },
            ],
          },
        ],
      },
      response: { token: 'tt9', ended: '2026-07-07T07:00:00Z', answers: { f1: 'c2', f2: ['c8', 'c7'] } },
    }),
    submissions: [
      {
        form: ['tea', 'Tea stall'],
        id: 'tt9',
        at: '2026-07-07T07:00:00Z',
        answers: { 'Which tea?': 'Black', Cakes: ['Apple', 'Plum'] },
      },
    ],
  },
  {
    name: 'columns and rows of cells',
    ...json({
      form: 'Lock survey',
      columns: ['Keeper', 'Gates that leak', 'Water level, cm'],
      rows: [
        ['Ivo', 2, 140],
        ['Noor', 0, 155],
        ['Pim', 1, 138],
      ],
    }),
    submissions: [
      { form: [null, 'Lock survey'], answers: { Keeper: 'Ivo', 'Gates that leak': 2, 'Water level, cm': 140 } },
      { answers: { Keeper: 'Noor', 'Gates that leak': 0, 'Water level, cm': 155 } },
      { answers: { Keeper: 'Pim', 'Gates that leak': 1, 'Water level, cm': 138 } },
    ],
  },
  {
    name: 'plain rows without anything around',
    ...json([
      { Name: 'Tove', Role: 'Cook', Nights: 2 },
      { Name: 'Sami', Role: 'Guide', Nights: 3 },
      { Name: 'Ola', Role: 'Cook', Nights: 1 },
    ]),
    submissions: [
      { answers: { Name: 'Tove', Role: 'Cook', Nights: 2 } },
      { answers: { Name: 'Sami', Role: 'Guide', Nights: 3 } },
      { answers: { Name: 'Ola', Role: 'Cook', Nights: 1 } },
    ],
  },
  {
    name: 'one answer in a dictionary',
    ...json({
      submission_id: 'one',
      submitted_at: '2026-01-01T00:00:00Z',
      answers: { q4: { label: 'Only question?', type: 'text', value: 'Only answer' } },
    }),
    submissions: [{ id: 'one', at: '2026-01-01T00:00:00Z', answers: { 'Only question?': 'Only answer' } }],
  },
  {
    name: 'one answer in a list',
    ...json({
      submission_id: 'one',
      submitted_at: '2026-01-01T00:00:00Z',
      answers: [{ label: 'Only question?', type: 'text', value: 'Only answer' }],
    }),
    submissions: [{ id: 'one', at: '2026-01-01T00:00:00Z', answers: { 'Only question?': 'Only answer' } }],
  },
  {
    name: 'names, types and values all called so',
    ...json({
      id: 'nt',
      date: '2026-02-02T02:02:02Z',
      elements: [
        { type: 'name', name: 'Name', value: 'Ada' },
        { type: 'text', name: 'Text', value: 'Wet feet' },
        { type: 'date', name: 'Date', value: '3 May' },
      ],
    }),
    submissions: [{ id: 'nt', at: '2026-02-02T02:02:02Z', answers: { Name: 'Ada', Text: 'Wet feet', Date: '3 May' } }],
  },
  {
    name: 'body as a JSON text in an event',
    ...json({
      Records: [
        {
          messageId: 'm-1',
          body: JSON.stringify({
            response_id: 'rr1',
            completed_at: '2026-08-08T08:08:08Z',
            answers: [
              { question: 'Berth', answer: 'C4' },
              { question: 'Shore power?', answer: 'Yes' },
            ],
          }),
        },
      ],
    }),
    submissions: [{ id: 'rr1', at: '2026-08-08T08:08:08Z', answers: { Berth: 'C4', 'Shore power?': 'Yes' } }],
  },
  {
    name: 'sections as objects, wordings as keys',
    ...json({
      'Submission ID': 'W-3',
      'Submitted at': '2026-09-09 09:09',
      'About you': { 'Your name': 'Ida Moss', 'Your mail': 'ida@example.org' },
      'About the weir': { 'What is blocked?': 'The fish pass', 'How badly?': 'A little' },
    }),
    submissions: [
      {
        id: 'W-3',
        at: '2026-09-09 09:09',
        answers: {
          'Your name': 'Ida Moss',
          'Your mail': 'ida@example.org',
          'What is blocked?': 'The fish pass',
          'How badly?': 'A little',
        },
      },
    ],
  },
  {
    name: 'German keys and answers',
    ...json({
      eingang: { nummer: 'B-12', zeit: '2026-03-04T10:00:00+01:00' },
      formular: { titel: 'Bootsplatz' },
      angaben: { Bootsname: 'Ente', 'Länge (m)': '5,40', 'Liegt im Winter an Land?': true },
    }),
    submissions: [
      {
        form: [null, 'Bootsplatz'],
        id: 'B-12',
        at: '2026-03-04T10:00:00+01:00',
        answers: { Bootsname: 'Ente', 'Länge (m)': '5,40', 'Liegt im Winter an Land?': true },
      },
    ],
  },
  {
    name: 'French list in an envelope',
    ...json({
      réponse: { numéro: 'R-9', reçue_le: '2026-04-04 14:00' },
      formulaire: { code: 'pont', titre: 'Visite du pont' },
      réponses: [
        { question: 'Combien serez-vous ?', réponse: 3 },
        { question: 'Qui vous guide ?', réponse: 'Gaëlle' },
      ],
    }),
    submissions: [
      {
        form: ['pont', 'Visite du pont'],
        id: 'R-9',
        at: '2026-04-04 14:00',
        answers: { 'Combien serez-vous ?': 3, 'Qui vous guide ?': 'Gaëlle' },
      },
    ],
  },
  {
    name: 'two pages of fields',
    ...json({
      sid: 'p-2',
      completed: '2026-05-05T15:00:00Z',
      pages: [
        { title: 'One', fields: [{ id: 'a', label: 'Trail', value: 'North loop' }] },
        {
          title: 'Two',
          fields: [
            { id: 'b', label: 'Rating', value: 4 },
            { id: 'c', label: 'Remarks', value: null },
          ],
        },
      ],
    }),
    submissions: [{ id: 'p-2', at: '2026-05-05T15:00:00Z', answers: { Trail: 'North loop', Rating: 4 } }],
  },
  {
    name: 'value varies with the type',
    ...json({
      token: 'v1',
      submitted_at: '2026-06-06T06:06:06Z',
      answers: [
        { field: { id: 'x', title: 'How many otters?' }, type: 'number', number: 2 },
        { field: { id: 'y', title: 'Describe the bank' }, type: 'text', text: 'Steep and muddy' },
        { field: { id: 'z', title: 'Seen before?' }, type: 'boolean', boolean: false },
      ],
    }),
    submissions: [
      {
        id: 'v1',
        at: '2026-06-06T06:06:06Z',
        answers: { 'How many otters?': 2, 'Describe the bank': 'Steep and muddy', 'Seen before?': false },
      },
    ],
  },
  {
    name: 'parallel lists',
    ...json({
      ref: 'PL-1',
      time: '2026-07-07 17:00',
      questions: ['Which bridge?', 'Planks missing', 'Rail loose?'],
      answers: ['Withy', 3, 'Yes'],
    }),
    submissions: [
      {
        id: 'PL-1',
        at: '2026-07-07 17:00',
        answers: { 'Which bridge?': 'Withy', 'Planks missing': 3, 'Rail loose?': 'Yes' },
      },
    ],
  },
  {
    name: 'names and an address as objects',
    ...json({
      id: 'ad',
      created: '2026-01-05T01:00:00Z',
      fields: [
        { id: '1', label: 'Who are you?', type: 'name', value: { first: 'Wen', last: 'Brook' } },
        {
          id: '2',
          label: 'Where do you live?',
          type: 'address',
          value: { street: '1 Mill Lane', city: 'Fernhollow', postcode: 'FH1 2AB' },
        },
      ],
    }),
    submissions: [
      {
        id: 'ad',
        at: '2026-01-05T01:00:00Z',
        answers: {
          'Who are you?': { first: 'Wen', last: 'Brook' },
          'Where do you live?': { street: '1 Mill Lane', city: 'Fernhollow', postcode: 'FH1 2AB' },
        },
      },
    ],
  },
  {
    name: 'files in a list',
    ...json({
      id: 'fi',
      created: '2026-01-06T01:00:00Z',
      fields: [
        { id: '1', label: 'Where was it?', value: 'Below the weir' },
        {
          id: '2',
          label: 'Photos',
          value: [
            { name: 'w1.jpg', url: 'https://files.example.org/w1', size: 900, type: 'image/jpeg' },
            { name: 'w2.jpg', url: 'https://files.example.org/w2', size: 901, type: 'image/jpeg' },
          ],
        },
      ],
    }),
    submissions: [
      {
        id: 'fi',
        at: '2026-01-06T01:00:00Z',
        answers: { 'Where was it?': 'Below the weir' },
        files: [
          ['2', 'w1.jpg'],
          ['2', 'w2.jpg'],
        ],
      },
    ],
  },
  {
    name: 'a table among flat answers',
    ...json({
      submission_id: 'ta',
      submitted_at: '2026-02-02T12:00:00Z',
      leader: 'Noor',
      children: [
        { name: 'Lio', age: 7 },
        { name: 'Sky', age: 9 },
      ],
      town: 'Elden',
    }),
    submissions: [
      {
        id: 'ta',
        at: '2026-02-02T12:00:00Z',
        answers: {
          Leader: 'Noor',
          Children: [
            { name: 'Lio', age: 7 },
            { name: 'Sky', age: 9 },
          ],
          Town: 'Elden',
        },
      },
    ],
  },
  {
    name: 'a grid as row to column',
    ...json({
      response_id: 'gr',
      finished: '2026-03-03T13:00:00Z',
      answers: [
        { q: 'How was …', a: { 'The path': 'Good', 'The signs': 'Poor' } },
        { q: 'Anything else?', a: 'More benches' },
      ],
    }),
    submissions: [
      {
        id: 'gr',
        at: '2026-03-03T13:00:00Z',
        answers: { 'How was …': { 'The path': 'Good', 'The signs': 'Poor' }, 'Anything else?': 'More benches' },
      },
    ],
  },
  {
    name: 'other in place of the option',
    ...json({
      id: 'ot',
      created: '2026-04-01T11:00:00Z',
      answers: [
        { id: 'a', question: 'How did you come?', answer: 'Other', other: 'By canoe' },
        { id: 'b', question: 'With whom?', answer: 'Alone' },
      ],
    }),
    submissions: [
      { id: 'ot', at: '2026-04-01T11:00:00Z', answers: { 'How did you come?': 'By canoe', 'With whom?': 'Alone' } },
    ],
  },
  {
    name: 'JSON lines, one form',
    type: 'application/x-ndjson',
    body: lines(
      '{"id":"l1","ts":"2026-05-01T10:00:00Z","ph":7.1,"site":"Ford"}',
      '{"id":"l2","ts":"2026-05-01T11:00:00Z","ph":6.9,"site":"Weir"}',
    ),
    submissions: [
      { id: 'l1', at: '2026-05-01T10:00:00Z', answers: { Ph: 7.1, Site: 'Ford' } },
      { id: 'l2', at: '2026-05-01T11:00:00Z', answers: { Ph: 6.9, Site: 'Weir' } },
    ],
  },
  {
    name: 'a map of submissions by id',
    ...json({
      'sub-1': { when: '2026-06-01 10:00', answers: { Boat: 'Ente', Crew: 2 } },
      'sub-2': { when: '2026-06-02 10:00', answers: { Boat: 'Otter', Crew: 4 } },
    }),
    submissions: [
      { id: 'sub-1', at: '2026-06-01 10:00', answers: { Boat: 'Ente', Crew: 2 } },
      { id: 'sub-2', at: '2026-06-02 10:00', answers: { Boat: 'Otter', Crew: 4 } },
    ],
  },
  {
    name: 'export with a time at the end',
    type: 'text/csv',
    body: lines(
      'Full name,E-mail,Which walk?,Any allergies?,Submission ID,Submitted at',
      'Ada Reed,ada@example.org,Dawn,,S1,2026-01-01 08:00',
      'Wen Brook,wen@example.org,Dusk,"Nuts, milk",S2,2026-01-02 08:00',
    ),
    submissions: [
      {
        id: 'S1',
        at: '2026-01-01 08:00',
        answers: { 'Full name': 'Ada Reed', 'E-mail': 'ada@example.org', 'Which walk?': 'Dawn' },
      },
      {
        id: 'S2',
        at: '2026-01-02 08:00',
        answers: {
          'Full name': 'Wen Brook',
          'E-mail': 'wen@example.org',
          'Which walk?': 'Dusk',
          'Any allergies?': 'Nuts, milk',
        },
      },
    ],
  },
  {
    name: 'export with IP and browser',
    type: 'text/csv',
    body: lines(
      '#,Date created,IP,Browser,River,Level (cm)',
      '31,2026-02-01 07:00,192.0.2.1,ExampleBrowser/2,Alder,120',
      '32,2026-02-01 09:00,192.0.2.9,ExampleBrowser/2,Elder,95',
    ),
    submissions: [
      { id: '31', at: '2026-02-01 07:00', answers: { River: 'Alder', 'Level (cm)': '120' } },
      { id: '32', at: '2026-02-01 09:00', answers: { River: 'Elder', 'Level (cm)': '95' } },
    ],
  },
  {
    name: 'semicolons, German',
    type: 'text/csv',
    body: lines(
      'Zeitstempel;Name;Wie viele Personen?;Bemerkung',
      '01.03.2026 10:00;Uwe Furt;3;"Wir kommen später; gegen elf"',
      '02.03.2026 11:30;Änne Bach;1;',
    ),
    submissions: [
      {
        at: '01.03.2026 10:00',
        answers: { Name: 'Uwe Furt', 'Wie viele Personen?': '3', Bemerkung: 'Wir kommen später; gegen elf' },
      },
      { at: '02.03.2026 11:30', answers: { Name: 'Änne Bach', 'Wie viele Personen?': '1' } },
    ],
  },
  {
    name: 'questions and answers downwards',
    type: 'text/csv',
    body: lines(
      'Question,Answer',
      'Who found it?,Ivo Marsh',
      'What is it?,A glove',
      'Where?,"Row F, seat 12"',
      'When?,18 May',
    ),
    submissions: [
      {
        answers: {
          'Who found it?': 'Ivo Marsh',
          'What is it?': 'A glove',
          'Where?': 'Row F, seat 12',
          'When?': '18 May',
        },
      },
    ],
  },
  {
    name: 'table on its side',
    type: 'text/tab-separated-values',
    body: lines(
      'Response ID\t71\t72\t73',
      'Submitted\t2026-03-01 10:00\t2026-03-01 11:00\t2026-03-02 09:30',
      'Dog’s name\tMoss\tFern\tRusk',
      'Can it swim?\tYes\tNo\tYes',
    ),
    submissions: [
      { id: '71', at: '2026-03-01 10:00', answers: { 'Dog’s name': 'Moss', 'Can it swim?': 'Yes' } },
      { id: '72', at: '2026-03-01 11:00', answers: { 'Dog’s name': 'Fern', 'Can it swim?': 'No' } },
      { id: '73', at: '2026-03-02 09:30', answers: { 'Dog’s name': 'Rusk', 'Can it swim?': 'Yes' } },
    ],
  },
  {
    name: 'one answer a row',
    type: 'text/csv',
    body: lines(
      'Entry ID,Question,Response',
      'E1,Which day?,Monday',
      'E1,How many?,2',
      'E2,Which day?,Friday',
      'E2,How many?,5',
    ),
    submissions: [
      { id: 'E1', answers: { 'Which day?': 'Monday', 'How many?': '2' } },
      { id: 'E2', answers: { 'Which day?': 'Friday', 'How many?': '5' } },
    ],
  },
  {
    name: 'two rows of head',
    type: 'text/csv',
    body: lines(
      'id,ts,q1,q2',
      'Entry,Time,What did you see?,How often?',
      '9,2026-05-05T05:00:00Z,A heron,Twice',
      '10,2026-05-06T05:00:00Z,"Otters, three",Once',
    ),
    submissions: [
      { id: '9', at: '2026-05-05T05:00:00Z', answers: { 'What did you see?': 'A heron', 'How often?': 'Twice' } },
      { id: '10', at: '2026-05-06T05:00:00Z', answers: { 'What did you see?': 'Otters, three', 'How often?': 'Once' } },
    ],
  },
  {
    name: 'a table sent without a type',
    type: null,
    body: lines('Name\tTown\tBoots', 'Ada Reed\tFernhollow\t39', 'Wen Brook\tElden\t42', 'Ivo Marsh\tElden\t44'),
    submissions: [
      { answers: { Name: 'Ada Reed', Town: 'Fernhollow', Boots: '39' } },
      { answers: { Name: 'Wen Brook', Town: 'Elden', Boots: '42' } },
      { answers: { Name: 'Ivo Marsh', Town: 'Elden', Boots: '44' } },
    ],
  },
  {
    name: 'XML with a field for each answer',
    type: 'application/xml',
    body: '<submission id="x9" submitted="2026-01-02T03:04:05Z"><form id="f3" name="Mooring"/><field name="boat" label="Boat">Ente</field><field name="len" label="Length">7.5</field></submission>',
    submissions: [
      { form: ['f3', 'Mooring'], id: 'x9', at: '2026-01-02T03:04:05Z', answers: { Boat: 'Ente', Length: '7.5' } },
    ],
  },
  {
    name: 'XML, elements are keys',
    type: 'text/xml',
    body: '<entry><entry_id>77</entry_id><created_at>2026-02-03T04:05:06Z</created_at><data><river>Alder</river><clarity>Cloudy</clarity><notes>Two geese &amp; a swan</notes></data></entry>',
    submissions: [
      {
        id: '77',
        at: '2026-02-03T04:05:06Z',
        answers: { River: 'Alder', Clarity: 'Cloudy', Notes: 'Two geese & a swan' },
      },
    ],
  },
  {
    name: 'XML batch',
    type: 'application/xml',
    body: '<responses><response no="1" time="2026-03-01T10:00:00Z"><a q="Site">Ford</a><a q="Foam?">Yes</a></response><response no="2" time="2026-03-01T11:00:00Z"><a q="Site">Weir</a><a q="Foam?">No</a></response></responses>',
    submissions: [
      { at: '2026-03-01T10:00:00Z', answers: { Site: 'Ford', 'Foam?': 'Yes' } },
      { at: '2026-03-01T11:00:00Z', answers: { Site: 'Weir', 'Foam?': 'No' } },
    ],
  },
  {
    name: 'urlencoded with brackets',
    type: 'application/x-www-form-urlencoded',
    body: 'submission%5Bid%5D=u7&submission%5Bcreated_at%5D=2026-04-01T10%3A00%3A00Z&data%5Bname%5D=Ada&data%5Bdays%5D%5B%5D=Mon&data%5Bdays%5D%5B%5D=Fri&data%5Bnote%5D=Late%2C+sorry',
    submissions: [
      { id: 'u7', at: '2026-04-01T10:00:00Z', answers: { Name: 'Ada', Days: ['Mon', 'Fri'], Note: 'Late, sorry' } },
    ],
  },
  {
    name: 'urlencoded with wordings',
    type: 'application/x-www-form-urlencoded',
    body: 'form_name=Tool+library&What+do+you+need%3F=Belt+sander&For+how+long%3F=Two+days&I+agree+to+the+rules=on',
    submissions: [
      {
        form: [null, 'Tool library'],
        answers: { 'What do you need?': 'Belt sander', 'For how long?': 'Two days', 'I agree to the rules': true },
      },
    ],
  },
  {
    name: 'query alone',
    type: null,
    query: 'sid=q-77&submitted=2026-05-05T10%3A00%3A00Z&colour=Teal&size=XL',
    body: '',
    submissions: [{ id: 'q-77', at: '2026-05-05T10:00:00Z', answers: { Colour: 'Teal', Size: 'XL' } }],
  },
  {
    name: 'multipart with a file',
    type: 'multipart/form-data; boundary=zz',
    body: [
      '--zz',
      'Content-Disposition: form-data; name="entry_id"',
      '',
      'm9',
      '--zz',
      'Content-Disposition: form-data; name="what"',
      '',
      'Broken rail',
      '--zz',
      'Content-Disposition: form-data; name="photo"; filename="rail 1.jpg"',
      'Content-Type: image/jpeg',
      '',
      'xxxx',
      '--zz--',
      '',
    ].join('\r\n'),
    submissions: [{ id: 'm9', answers: { What: 'Broken rail' }, files: [['photo', 'rail 1.jpg']] }],
  },
  {
    name: 'mail with lines',
    type: 'message/rfc822',
    body: lines(
      'From: forms@example.org',
      'To: desk@example.com',
      'Subject: New entry',
      'Date: Tue, 03 Mar 2026 10:00:00 +0000',
      'Content-Type: text/plain; charset=utf-8',
      '',
      'A new entry came in.',
      '',
      'Name: Ada Reed',
      'Town: Fernhollow',
      'Message: We would like to come',
      'on Sunday, if it is dry.',
      '',
      '-- ',
      'Sent by the form',
    ),
    submissions: [
      { answers: { Name: 'Ada Reed', Town: 'Fernhollow', Message: 'We would like to come\non Sunday, if it is dry.' } },
    ],
  },
  {
    name: 'mail with a table of two columns',
    type: 'message/rfc822',
    body: lines(
      'From: forms@example.org',
      'Subject: Booking',
      'Date: Tue, 03 Mar 2026 10:00:00 +0000',
      'Content-Type: text/html; charset=utf-8',
      '',
      '<p>New booking</p><table><tr><td>Booking number</td><td>B-55</td></tr><tr><td>Guest</td><td>Ira Moss</td></tr><tr><td>Nights</td><td>3</td></tr><tr><td>Wishes</td><td>A quiet room,<br>please</td></tr></table>',
    ),
    submissions: [{ answers: { Guest: 'Ira Moss', Nights: '3', Wishes: 'A quiet room,\nplease' } }],
  },
  {
    name: 'mail with paragraphs of bold labels',
    type: 'message/rfc822',
    body: lines(
      'From: forms@example.org',
      'Subject: Feedback',
      'Date: Tue, 03 Mar 2026 10:00:00 +0000',
      'Content-Type: text/html; charset=utf-8',
      '',
      '<p><strong>What did you like?</strong><br>The bridge</p><p><strong>What could be better?</strong><br>More signs</p><p><strong>Your mail</strong><br>ivo@example.org</p>',
    ),
    submissions: [
      {
        answers: {
          'What did you like?': 'The bridge',
          'What could be better?': 'More signs',
          'Your mail': 'ivo@example.org',
        },
      },
    ],
  },
  {
    name: 'text with a head and a rule',
    type: 'text/plain',
    body: lines(
      'Form: Lost and found',
      'Entry ID: LF-4',
      'Submitted: 2026-06-01 12:00',
      '------',
      'What did you lose?: An umbrella',
      'Colour: Black',
      'Where?: On the ferry',
    ),
    submissions: [
      {
        form: [null, 'Lost and found'],
        id: 'LF-4',
        at: '2026-06-01 12:00',
        answers: { 'What did you lose?': 'An umbrella', Colour: 'Black', 'Where?': 'On the ferry' },
      },
    ],
  },
  {
    name: 'text with questions above answers',
    type: 'text/plain',
    body: lines(
      'Which workshop?',
      'Bread as a clock',
      '',
      'How many seats?',
      '2',
      '',
      'Anything else?',
      'We bring our own flour.',
    ),
    submissions: [
      {
        answers: {
          'Which workshop?': 'Bread as a clock',
          'How many seats?': '2',
          'Anything else?': 'We bring our own flour.',
        },
      },
    ],
  },
  {
    name: 'text with aligned colons',
    type: null,
    body: lines(
      'Name      : Teun Wilg',
      'Plaats    : Voorde',
      'Opmerking : Graag vroeg,',
      '            want ik werk om tien uur',
      'Aantal    : 4',
    ),
    submissions: [
      {
        answers: {
          Name: 'Teun Wilg',
          Plaats: 'Voorde',
          Opmerking: 'Graag vroeg,\nwant ik werk om tien uur',
          Aantal: '4',
        },
      },
    ],
  },
  {
    name: 'answers as single-key objects',
    ...json({
      id: 'sk',
      created_at: '2026-07-01T10:00:00Z',
      answers: [{ 'Which gate?': 'North' }, { 'Key number': '12' }, { 'Returned?': 'Yes' }],
    }),
    submissions: [
      {
        id: 'sk',
        at: '2026-07-01T10:00:00Z',
        answers: { 'Which gate?': 'North', 'Key number': '12', 'Returned?': 'Yes' },
      },
    ],
  },
  {
    name: 'all options with a mark',
    ...json({
      id: 'om',
      created_at: '2026-07-02T10:00:00Z',
      questions: [
        {
          id: 1,
          text: 'Which tools?',
          options: [
            { label: 'Saw', selected: true },
            { label: 'Axe', selected: false },
            { label: 'Rope', selected: true },
          ],
        },
        { id: 2, text: 'Experience', answer: 'Some' },
      ],
    }),
    submissions: [
      { id: 'om', at: '2026-07-02T10:00:00Z', answers: { 'Which tools?': ['Saw', 'Rope'], Experience: 'Some' } },
    ],
  },
  {
    name: 'places of options from 0',
    ...json({
      id: 'oi',
      created_at: '2026-07-03T10:00:00Z',
      answers: [
        { label: 'Which shift?', type: 'radio', options: ['Early', 'Late', 'Night'], value: 1 },
        { label: 'Which days?', type: 'checkbox', options: ['Mon', 'Tue', 'Wed'], value: [0, 2] },
      ],
    }),
    submissions: [
      { id: 'oi', at: '2026-07-03T10:00:00Z', answers: { 'Which shift?': 'Late', 'Which days?': ['Mon', 'Wed'] } },
    ],
  },
  {
    name: 'tidy text beside raw answers',
    ...json({
      entry_id: 'tb',
      submitted_at: '2026-07-04T10:00:00Z',
      pretty: 'Name: Ida Moss, Town: Elden, Nights: 3',
      rawRequest: { q3_name: 'Ida Moss', q4_town: 'Elden', q5_nights: '3' },
    }),
    submissions: [
      {
        id: 'tb',
        at: '2026-07-04T10:00:00Z',
        answers: { 'Q3 name': 'Ida Moss', 'Q4 town': 'Elden', 'Q5 nights': '3' },
      },
    ],
  },
  {
    name: 'unknown names for everything',
    ...json({
      zub: 'k-901',
      wef: '2026-08-01T09:00:00Z',
      mlo: [
        { ka: 'Where is the leak?', pi: 'Under the bridge' },
        { ka: 'How bad is it?', pi: 'Drips' },
        { ka: 'Litres an hour', pi: 12 },
      ],
    }),
    submissions: [
      {
        id: 'k-901',
        at: '2026-08-01T09:00:00Z',
        answers: { 'Where is the leak?': 'Under the bridge', 'How bad is it?': 'Drips', 'Litres an hour': 12 },
      },
    ],
  },
  {
    name: 'Japanese wordings in a list',
    ...json({
      id: 'jp',
      created_at: '2026-08-02T09:00:00Z',
      answers: [
        { question: 'お名前', answer: '見本 一郎' },
        { question: 'ご希望の日', answer: '土曜日' },
      ],
    }),
    submissions: [{ id: 'jp', at: '2026-08-02T09:00:00Z', answers: { お名前: '見本 一郎', ご希望の日: '土曜日' } }],
  },
  {
    name: 'hidden fields and scores around',
    ...json({
      response: {
        id: 'hs',
        submitted: '2026-08-03T09:00:00Z',
        score: 12,
        hidden: { utm_source: 'poster' },
        metadata: { user_agent: 'ExampleBrowser/1' },
      },
      form: { id: 'quiz', title: 'River quiz' },
      answers: [
        { id: 'a', label: 'Longest river?', value: 'Alder' },
        { id: 'b', label: 'Deepest pool?', value: 'Withy' },
      ],
    }),
    submissions: [
      {
        form: ['quiz', 'River quiz'],
        id: 'hs',
        at: '2026-08-03T09:00:00Z',
        answers: { 'Longest river?': 'Alder', 'Deepest pool?': 'Withy' },
      },
    ],
  },
  {
    name: 'list in a list',
    ...json([
      [
        { label: 'Site', value: 'Ford' },
        { label: 'Foam', value: 'Yes' },
      ],
      [
        { label: 'Site', value: 'Weir' },
        { label: 'Foam', value: 'No' },
      ],
    ]),
    submissions: [{ answers: { Site: 'Ford', Foam: 'Yes' } }, { answers: { Site: 'Weir', Foam: 'No' } }],
  },
  {
    name: 'pairs',
    ...json({
      uid: 'pr',
      logged_at: '2026-08-04T09:00:00Z',
      form: 'Gate check',
      lines: [
        ['Gate', 'North'],
        ['Lock works?', true],
        ['Remarks', 'Oil it'],
      ],
    }),
    submissions: [
      {
        form: [null, 'Gate check'],
        id: 'pr',
        at: '2026-08-04T09:00:00Z',
        answers: { Gate: 'North', 'Lock works?': true, Remarks: 'Oil it' },
      },
    ],
  },
  {
    name: 'camel case, deep',
    ...json({
      eventType: 'formSubmitted',
      payload: {
        formResponse: {
          responseId: 'cc',
          lastSubmittedTime: '2026-08-05T09:00:00Z',
          answersByField: { ownerName: 'Perrin Oakes', boatLength: 8.2, winterBerth: 'Yes please' },
        },
      },
    }),
    submissions: [
      {
        id: 'cc',
        at: '2026-08-05T09:00:00Z',
        answers: { 'Owner name': 'Perrin Oakes', 'Boat length': 8.2, 'Winter berth': 'Yes please' },
      },
    ],
  },
  {
    name: 'a list of choices as objects',
    ...json({
      id: 'co',
      created_at: '2026-08-06T09:00:00Z',
      answers: [
        {
          id: 'a',
          label: 'Snacks',
          value: [
            { id: 's1', label: 'Plums' },
            { id: 's2', label: 'Nuts' },
          ],
        },
        { id: 'b', label: 'Drink', value: { id: 'd1', label: 'Tea' } },
      ],
    }),
    submissions: [{ id: 'co', at: '2026-08-06T09:00:00Z', answers: { Snacks: ['Plums', 'Nuts'], Drink: 'Tea' } }],
  },
  {
    name: 'seconds since the epoch',
    ...json({
      id: 'ep',
      submitted: 1767225600,
      form_id: 'ep-form',
      fields: { name: 'Ada', comment: 'Short and sweet' },
    }),
    submissions: [
      { form: ['ep-form', null], id: 'ep', at: '1767225600', answers: { Name: 'Ada', Comment: 'Short and sweet' } },
    ],
  },
  {
    name: 'labels as a map after',
    ...json({
      entry: { id: 'lm', date_submitted: '2026-08-07 09:00', field_1: 'Moss', field_2: 'Two', field_3: '' },
      labels: { field_1: 'Dog’s name', field_2: 'Walks a day', field_3: 'Allergies' },
    }),
    submissions: [{ id: 'lm', at: '2026-08-07 09:00', answers: { 'Dog’s name': 'Moss', 'Walks a day': 'Two' } }],
  },
];

/** Thirty more, written when those above had been mended for: a first result of their own, told in the bench as well. */
export const thirty: Written[] = [
  {
    name: 'reply with blocks',
    ...json({
      reply: { ref: 'B-1', sent_on: '2026-09-01 10:00' },
      form: { ref: 'bl', title: 'Block form' },
      blocks: [
        { kind: 'intro', text: 'Welcome!' },
        { kind: 'question', text: 'Your name', answer: 'Ada' },
        { kind: 'question', text: 'Your boat', answer: 'Ente' },
      ],
    }),
    submissions: [
      {
        form: ['bl', 'Block form'],
        id: 'B-1',
        at: '2026-09-01 10:00',
        answers: { 'Your name': 'Ada', 'Your boat': 'Ente' },
      },
    ],
  },
  {
    name: 'rows with ids and times',
    ...json({
      rows: [
        { ID: 'r1', 'Submitted at': '2026-09-02T10:00:00Z', Team: 'Otters', Points: 12 },
        { ID: 'r2', 'Submitted at': '2026-09-02T11:00:00Z', Team: 'Herons', Points: 9 },
      ],
    }),
    submissions: [
      { id: 'r1', at: '2026-09-02T10:00:00Z', answers: { Team: 'Otters', Points: 12 } },
      { id: 'r2', at: '2026-09-02T11:00:00Z', answers: { Team: 'Herons', Points: 9 } },
    ],
  },
  {
    name: 'snake rows',
    ...json([
      { created_at: '2026-09-03T10:00:00Z', site: 'Ford', reading: 7.2, remark: 'clear' },
      { created_at: '2026-09-03T12:00:00Z', site: 'Weir', reading: 6.8, remark: 'cloudy water' },
    ]),
    submissions: [
      { at: '2026-09-03T10:00:00Z', answers: { Site: 'Ford', Reading: 7.2, Remark: 'clear' } },
      { at: '2026-09-03T12:00:00Z', answers: { Site: 'Weir', Reading: 6.8, Remark: 'cloudy water' } },
    ],
  },
  {
    name: 'answers keyed by slug with labels beside',
    ...json({
      submission: {
        id: 'sl-1',
        created: '2026-09-04T10:00:00Z',
        answers: { 'which-gate': { q: 'Which gate?', a: 'North' }, 'how-many': { q: 'How many came?', a: 14 } },
      },
    }),
    submissions: [
      { id: 'sl-1', at: '2026-09-04T10:00:00Z', answers: { 'Which gate?': 'North', 'How many came?': 14 } },
    ],
  },
  {
    name: 'groups that hold questions',
    ...json({
      id: 'gq',
      completed_at: '2026-09-05T10:00:00Z',
      groups: [
        {
          name: 'Visitor',
          questions: [
            { label: 'Name', value: 'Wen' },
            { label: 'Age', value: 41 },
          ],
        },
        { name: 'Visit', questions: [{ label: 'Day', value: 'Monday' }] },
      ],
    }),
    submissions: [{ id: 'gq', at: '2026-09-05T10:00:00Z', answers: { Name: 'Wen', Age: 41, Day: 'Monday' } }],
  },
  {
    name: 'choice with value and label',
    ...json({
      id: 'cv',
      created_at: '2026-09-06T10:00:00Z',
      data: [
        { key: 'k1', label: 'Season', type: 'select', value: { value: 's', label: 'Summer' } },
        {
          key: 'k2',
          label: 'Crew',
          type: 'multiselect',
          value: [
            { value: 'a', label: 'Ada' },
            { value: 'w', label: 'Wen' },
          ],
        },
      ],
    }),
    submissions: [{ id: 'cv', at: '2026-09-06T10:00:00Z', answers: { Season: 'Summer', Crew: ['Ada', 'Wen'] } }],
  },
  {
    name: 'flat with a consent and a rating',
    ...json({
      submission_id: 'fc',
      submitted_at: '2026-09-07T10:00:00Z',
      full_name: 'Ivo Marsh',
      rating: 4,
      would_recommend: 'Yes',
      accept_terms: true,
    }),
    submissions: [
      {
        id: 'fc',
        at: '2026-09-07T10:00:00Z',
        answers: { 'Full name': 'Ivo Marsh', Rating: 4, 'Would recommend': 'Yes', 'Accept terms': true },
      },
    ],
  },
  {
    name: 'Italian list',
    ...json({
      id: 'it-1',
      inviato: '2026-09-08 10:00',
      modulo: 'Visita al ponte',
      risposte: [
        { domanda: 'Quanti siete?', risposta: 3 },
        { domanda: 'Chi vi guida?', risposta: 'Ilaria' },
      ],
    }),
    submissions: [
      {
        form: [null, 'Visita al ponte'],
        id: 'it-1',
        at: '2026-09-08 10:00',
        answers: { 'Quanti siete?': 3, 'Chi vi guida?': 'Ilaria' },
      },
    ],
  },
  {
    name: 'Swedish flat',
    ...json({
      svar_id: 's-4',
      skickat: '2026-09-09T10:00:00Z',
      svar: { 'Vem går med?': 'Åsa', 'Hur många hundar?': 2 },
    }),
    submissions: [{ at: '2026-09-09T10:00:00Z', answers: { 'Vem går med?': 'Åsa', 'Hur många hundar?': 2 } }],
  },
  {
    name: 'nested wrappers around one',
    ...json({
      version: 2,
      data: {
        attributes: {
          payload: {
            uid: 'nw',
            finished_at: '2026-09-10T10:00:00Z',
            responses: [
              { field: 'Depth', response: '1.2 m' },
              { field: 'Current', response: 'Strong today' },
            ],
          },
        },
      },
    }),
    submissions: [{ id: 'nw', at: '2026-09-10T10:00:00Z', answers: { Depth: '1.2 m', Current: 'Strong today' } }],
  },
  {
    name: 'fields as a map and values as a map',
    ...json({
      form: { id: 'mm', fields: { a1: 'Name of the dog', a2: 'Favourite walk' } },
      entry: { id: 'mm-7', submitted_at: '2026-09-11T10:00:00Z', values: { a1: 'Rusk', a2: 'Round the lock' } },
    }),
    submissions: [
      {
        id: 'mm-7',
        at: '2026-09-11T10:00:00Z',
        answers: { 'Name of the dog': 'Rusk', 'Favourite walk': 'Round the lock' },
      },
    ],
  },
  {
    name: 'list of lists with a header inside',
    ...json({
      sheet: 'Counts',
      values: [
        ['Observer', 'Herons', 'Otters'],
        ['Ada', 3, 1],
        ['Wen', 5, 0],
      ],
    }),
    submissions: [
      { answers: { Observer: 'Ada', Herons: 3, Otters: 1 } },
      { answers: { Observer: 'Wen', Herons: 5, Otters: 0 } },
    ],
  },
  {
    name: 'a batch with a cursor and counts',
    ...json({
      total: 2,
      next: null,
      responses: [
        { response_id: 'c1', ended_at: '2026-09-12T10:00:00Z', answers: { q1: 'Blue', q2: 'Often' } },
        { response_id: 'c2', ended_at: '2026-09-12T11:00:00Z', answers: { q1: 'Green', q2: 'Never' } },
      ],
      questions: [
        { id: 'q1', title: 'Which colour?' },
        { id: 'q2', title: 'How often?' },
      ],
    }),
    submissions: [
      { id: 'c1', at: '2026-09-12T10:00:00Z', answers: { 'Which colour?': 'Blue', 'How often?': 'Often' } },
      { id: 'c2', at: '2026-09-12T11:00:00Z', answers: { 'Which colour?': 'Green', 'How often?': 'Never' } },
    ],
  },
  {
    name: 'answers typed by member',
    ...json({
      id: 'tm',
      submitted: '2026-09-13T10:00:00Z',
      answers: [
        { question: 'How wide?', numberAnswer: 4 },
        { question: 'What grows there?', textAnswer: 'Reeds and iris' },
        { question: 'Fenced?', booleanAnswer: true },
      ],
    }),
    submissions: [
      {
        id: 'tm',
        at: '2026-09-13T10:00:00Z',
        answers: { 'How wide?': 4, 'What grows there?': 'Reeds and iris', 'Fenced?': true },
      },
    ],
  },
  {
    name: 'tabs with a note column',
    type: 'text/plain',
    body: lines(
      'Response ID\tTimestamp\tWhat went well?\tWhat did not?',
      '501\t2026-09-14 09:00\tThe boats\tThe weather, mostly',
      '502\t2026-09-14 09:30\tEverything\t',
    ),
    submissions: [
      {
        id: '501',
        at: '2026-09-14 09:00',
        answers: { 'What went well?': 'The boats', 'What did not?': 'The weather, mostly' },
      },
      { id: '502', at: '2026-09-14 09:30', answers: { 'What went well?': 'Everything' } },
    ],
  },
  {
    name: 'commas with a quoted head',
    type: 'text/csv',
    body: lines(
      '"Submission Date","First name","Last name","Comments, if any"',
      '"2026-09-15 10:00","Ada","Reed","None, thanks"',
      '"2026-09-15 11:00","Wen","Brook",""',
    ),
    submissions: [
      {
        at: '2026-09-15 10:00',
        answers: { 'First name': 'Ada', 'Last name': 'Reed', 'Comments, if any': 'None, thanks' },
      },
      { at: '2026-09-15 11:00', answers: { 'First name': 'Wen', 'Last name': 'Brook' } },
    ],
  },
  {
    name: 'a table of words alone',
    type: 'text/csv',
    body: lines('Fruit,Colour,Season', 'Plum,Purple,Summer', 'Apple,Red,Autumn', 'Pear,Green,Autumn'),
    submissions: [
      { answers: { Fruit: 'Plum', Colour: 'Purple', Season: 'Summer' } },
      { answers: { Fruit: 'Apple', Colour: 'Red', Season: 'Autumn' } },
      { answers: { Fruit: 'Pear', Colour: 'Green', Season: 'Autumn' } },
    ],
  },
  {
    name: 'XML with question and answer elements',
    type: 'text/xml',
    body: '<survey name="Ferry" id="fer"><response id="f1" date="2026-09-16T10:00:00Z"><item><question>How was the crossing?</question><answer>Calm</answer></item><item><question>Would you sail again?</question><answer>Yes</answer></item></response></survey>',
    submissions: [
      {
        id: 'f1',
        at: '2026-09-16T10:00:00Z',
        answers: { 'How was the crossing?': 'Calm', 'Would you sail again?': 'Yes' },
      },
    ],
  },
  {
    name: 'XML flat with attributes around',
    type: 'application/xml',
    body: '<record id="x-3" time="2026-09-17T10:00:00Z" source="web"><town>Elden</town><visitors>14</visitors><comment>Bring a coat</comment></record>',
    submissions: [
      { id: 'x-3', at: '2026-09-17T10:00:00Z', answers: { Town: 'Elden', Visitors: '14', Comment: 'Bring a coat' } },
    ],
  },
  {
    name: 'urlencoded, plain',
    type: 'application/x-www-form-urlencoded',
    body: 'name=Ada+Reed&email=ada%40example.org&message=Two+boats%2C+please&newsletter=yes',
    submissions: [
      { answers: { Name: 'Ada Reed', Email: 'ada@example.org', Message: 'Two boats, please', Newsletter: true } },
    ],
  },
  {
    name: 'urlencoded with a JSON list',
    type: 'application/x-www-form-urlencoded',
    body: `entry_id=77&answers=${encodeURIComponent(
      JSON.stringify([
        { label: 'Site', value: 'Ford' },
        { label: 'Foam seen?', value: 'No' },
      ]),
    )}`,
    submissions: [{ id: '77', answers: { Site: 'Ford', 'Foam seen?': 'No' } }],
  },
  {
    name: 'multipart wordings',
    type: 'multipart/form-data; boundary=qq',
    body: [
      '--qq',
      'Content-Disposition: form-data; name="Your name"',
      '',
      'Noor',
      '--qq',
      'Content-Disposition: form-data; name="Your question"',
      '',
      'When does it open?',
      '--qq--',
      '',
    ].join('\r\n'),
    submissions: [{ answers: { 'Your name': 'Noor', 'Your question': 'When does it open?' } }],
  },
  {
    name: 'mail with a head and lines',
    type: 'message/rfc822',
    body: lines(
      'From: a@example.org',
      'Subject: Order',
      'Date: Tue, 03 Mar 2026 10:00:00 +0000',
      '',
      'Order number: 5501',
      'Received: 2026-09-18 10:00',
      '',
      'Item: Ladder',
      'Length: 3 m',
      'Deliver to: The mill',
    ),
    submissions: [
      { id: '5501', at: '2026-09-18 10:00', answers: { Item: 'Ladder', Length: '3 m', 'Deliver to': 'The mill' } },
    ],
  },
  {
    name: 'text with a greeting',
    type: 'text/plain',
    body: lines(
      'Hello team,',
      '',
      'somebody filled in the form.',
      '',
      'Name: Pim',
      'Phone: 030 23125 014',
      'Comment: See you at 10:30',
      '',
      'Regards,',
      'the form',
    ),
    submissions: [{ answers: { Name: 'Pim', Phone: '030 23125 014', Comment: 'See you at 10:30' } }],
  },
  {
    name: 'text with Q and A',
    type: 'text/plain',
    body: lines('Q: Which trail?', 'A: The north loop', 'Q: How long did it take?', 'A: Two hours'),
    submissions: [{ answers: { 'Which trail?': 'The north loop', 'How long did it take?': 'Two hours' } }],
  },
  {
    name: 'markdown',
    type: 'text/markdown',
    body: lines('# Feedback', '', '**Name:** Ola', '**Stars:** 4', '**What next?** More maps'),
    submissions: [{ answers: { Name: 'Ola', Stars: '4', 'What next?': 'More maps' } }],
  },
  {
    name: 'JSON with comments of a form in French',
    ...json({
      demande: { id: 'd-9', envoyée_le: '2026-09-19T10:00:00Z' },
      champs: [
        { libellé: 'Nom du bateau', valeur: 'Loutre' },
        { libellé: 'Longueur', valeur: 7.5 },
      ],
    }),
    submissions: [{ id: 'd-9', at: '2026-09-19T10:00:00Z', answers: { 'Nom du bateau': 'Loutre', Longueur: 7.5 } }],
  },
  {
    name: 'dates and times among answers',
    ...json({
      entry_id: 'dt',
      created_at: '2026-09-20T10:00:00Z',
      answers: { arrival_date: '2026-10-01', arrival_time: '14:30', departure_date: '2026-10-03', guests: 2 },
    }),
    submissions: [
      {
        id: 'dt',
        at: '2026-09-20T10:00:00Z',
        answers: { 'Arrival date': '2026-10-01', 'Arrival time': '14:30', 'Departure date': '2026-10-03', Guests: 2 },
      },
    ],
  },
  {
    name: 'an event with actor and target',
    ...json({
      id: 'evt-1',
      type: 'submission.created',
      actor: { id: 'u1', name: 'Bot' },
      object: {
        id: 'ob-5',
        form: { id: 'fo', name: 'Lost and found' },
        submitted_at: '2026-09-21T10:00:00Z',
        answers: [
          { q: 'What was lost?', a: 'A scarf' },
          { q: 'Which colour?', a: 'Red' },
        ],
      },
    }),
    submissions: [
      {
        form: ['fo', 'Lost and found'],
        id: 'ob-5',
        at: '2026-09-21T10:00:00Z',
        answers: { 'What was lost?': 'A scarf', 'Which colour?': 'Red' },
      },
    ],
  },
  {
    name: 'answers as text alone in JSON',
    ...json({ id: 'tx', received_at: '2026-09-22T10:00:00Z', message: 'Name: Uwe\nBoat: Ente\nNights: 2' }),
    submissions: [{ id: 'tx', at: '2026-09-22T10:00:00Z', answers: { Name: 'Uwe', Boat: 'Ente', Nights: '2' } }],
  },
];
