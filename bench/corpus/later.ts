import type { Labelled } from './labelled';

const json = (document: unknown) => ({ type: 'application/json', body: JSON.stringify(document) });
const lines = (...all: string[]) => all.join('\r\n');

/** A second batch that was unseen at first. */
export const later: Labelled[] = [
  {
    name: 'questions and replies as two lists joined by a number',
    ...json({
      dispatch: 'd-901',
      happened: '2026-03-03T10:11:12Z',
      sheet: { code: 'OAK', caption: 'Oak survey' },
      items: [
        { no: 1, prompt: 'Which oak?', sort: 'line' },
        { no: 2, prompt: 'Girth in cm', sort: 'amount' },
        {
          no: 3,
          prompt: 'Galls seen',
          sort: 'multi',
          picks: [
            { no: 'g1', text: 'Marble' },
            { no: 'g2', text: 'Apple' },
          ],
        },
      ],
      replies: [
        { item: 1, reply: 'The old one' },
        { item: 2, reply: 312 },
        { item: 3, reply: ['g1', 'g2'] },
      ],
    }),
    submissions: [
      {
        fields: [
          ['1', 'Which oak?', 'text', 'The old one'],
          ['2', 'Girth in cm', 'number', 312],
          ['3', 'Galls seen', 'choices', ['Marble', 'Apple']],
        ],
      },
    ],
  },
  {
    name: 'dictionary by opaque key, value beside a heading',
    ...json({
      entry_number: 77,
      received: '2026-02-14 08:00:01',
      contents: {
        fx_9a: { heading: 'Boat name', content: 'Dipper' },
        fx_9b: { heading: 'Crew', content: 4 },
        fx_9c: { heading: 'Contact', content: 'crew@example.org' },
        fx_9d: { heading: 'Life jackets?', content: true },
      },
    }),
    submissions: [
      {
        submittedAt: '2026-02-14 08:00:01',
        fields: [
          ['fx_9a', 'Boat name', 'text', 'Dipper'],
          ['fx_9b', 'Crew', 'number', 4],
          ['fx_9c', 'Contact', 'email', 'crew@example.org'],
          ['fx_9d', 'Life jackets?', 'boolean', true],
        ],
      },
    ],
  },
  {
    name: 'flat with files as JSON text and choices as JSON text',
    ...json({
      formTitle: 'Hedge report',
      submissionId: 'hr-5',
      hedge_length: '40 m',
      species: '["Hawthorn","Blackthorn"]',
      photos: '[{"name":"gap.jpg","url":"https://files.example.org/gap.jpg","size":2048,"type":"image/jpeg"}]',
      owner_email: 'hedge@example.org',
    }),
    submissions: [
      {
        form: ['Hedge report', 'Hedge report'],
        id: 'hr-5',
        fields: [
          ['hedge_length', 'Hedge length', 'text', '40 m'],
          ['species', 'Species', 'choices', ['Hawthorn', 'Blackthorn']],
          ['owner_email', 'Owner email', 'email', 'hedge@example.org'],
        ],
        files: [['photos', 'gap.jpg', 'image/jpeg', 2048, 'https://files.example.org/gap.jpg']],
      },
    ],
  },
  {
    name: 'urlencoded with checkbox keys, compound name and empty rest',
    type: 'application/x-www-form-urlencoded',
    body: 'nest_box=14&visitor%5Bfirst%5D=Ilse&visitor%5Blast%5D=Brandt&eggs=&seen%5Badult%5D=1&seen%5Bchick%5D=0&when=2026-05-04',
    submissions: [
      {
        fields: [
          ['nest_box', 'Nest box', 'text', '14'],
          ['visitor', 'Visitor', 'name', { first: 'Ilse', last: 'Brandt' }],
          ['seen', 'Seen', 'choices', ['adult']],
          ['when', 'When', 'date', '2026-05-04'],
        ],
      },
    ],
  },
  {
    name: 'XML with attributes that label',
    type: 'application/xml',
    body: '<submission id="sx-3" at="2026-06-01T06:00:00Z"><answer name="pond" label="Which pond?">Lower</answer><answer name="newts" label="Newts counted">7</answer></submission>',
    submissions: [
      {
        id: 'sx-3',
        fields: [
          ['pond', 'Which pond?', 'text', 'Lower'],
          ['newts', 'Newts counted', 'text', '7'],
        ],
      },
    ],
  },
  {
    name: 'semicolon table with quotes and a date column',
    type: 'text/csv',
    body: lines('Ref;Ranger;Date;Remark', 'A1;Noor;2026-04-01;"wet; cold"', 'A2;Pim;2026-04-02;'),
    submissions: [
      {
        fields: [
          ['Ref', 'Ref', 'text', 'A1'],
          ['Ranger', 'Ranger', 'text', 'Noor'],
          ['Date', 'Date', 'date', '2026-04-01'],
          ['Remark', 'Remark', 'text', 'wet; cold'],
        ],
      },
      {
        fields: [
          ['Ref', 'Ref', 'text', 'A2'],
          ['Ranger', 'Ranger', 'text', 'Pim'],
          ['Date', 'Date', 'date', '2026-04-02'],
        ],
      },
    ],
  },
  {
    name: 'multipart with a repeated checkbox and two files',
    type: 'multipart/form-data; boundary=QQ',
    body: lines(
      '--QQ',
      'Content-Disposition: form-data; name="lock"',
      '',
      'Upper',
      '--QQ',
      'Content-Disposition: form-data; name="faults[]"',
      '',
      'Paddle',
      '--QQ',
      'Content-Disposition: form-data; name="faults[]"',
      '',
      'Gate',
      '--QQ',
      'Content-Disposition: form-data; name="shots"; filename="a.txt"',
      'Content-Type: text/plain',
      '',
      'one',
      '--QQ',
      'Content-Disposition: form-data; name="shots"; filename="b.txt"',
      'Content-Type: text/plain',
      '',
      'three',
      '--QQ--',
      '',
    ),
    submissions: [
      {
        fields: [
          ['lock', 'Lock', 'text', 'Upper'],
          ['faults', 'Faults', 'choices', ['Paddle', 'Gate']],
        ],
        files: [
          ['shots', 'a.txt', 'text/plain', 3, null],
          ['shots', 'b.txt', 'text/plain', 5, null],
        ],
      },
    ],
  },
  {
    name: 'submission as JSON text inside an event',
    ...json({
      topic: 'form.completed',
      delivered_at: '2026-07-01T00:00:00Z',
      detail: JSON.stringify({
        uuid: 'u-8',
        answers: [
          { ref: 'a', title: 'Mood of the river', text: 'calm' },
          { ref: 'b', title: 'Clarity', text: 'good' },
        ],
      }),
    }),
    submissions: [
      {
        id: 'u-8',
        fields: [
          ['a', 'Mood of the river', 'text', 'calm'],
          ['b', 'Clarity', 'text', 'good'],
        ],
      },
    ],
  },
  {
    name: 'sections in sections with a table answer',
    ...json({
      record: { key: 'r9', created: '2026-05-05T05:05:05Z' },
      groups: [
        { name: 'Place', questions: [{ key: 'p', text: 'Where was it?', response: 'Basin' }] },
        {
          name: 'Catch',
          groups: [
            {
              name: 'Fish',
              questions: [
                {
                  key: 'c',
                  text: 'What was caught?',
                  response: [
                    { fish: 'Roach', n: 2 },
                    { fish: 'Perch', n: 1 },
                  ],
                },
                { key: 'd', text: 'Returned alive?', response: 'Yes' },
              ],
            },
          ],
        },
      ],
    }),
    submissions: [
      {
        fields: [
          ['p', 'Where was it?', 'text', 'Basin'],
          [
            'c',
            'What was caught?',
            'table',
            [
              { fish: 'Roach', n: 2 },
              { fish: 'Perch', n: 1 },
            ],
          ],
          ['d', 'Returned alive?', 'text', 'Yes'],
        ],
      },
    ],
  },
  {
    name: 'rating, consent and bare link under a file question',
    ...json({
      submission: 'q-2',
      answers: [
        { question: 'How was the walk?', kind: 'rating', answer: 4 },
        { question: 'I agree to be contacted', kind: 'checkbox', answer: true },
        { question: 'Upload your map', kind: 'file', answer: 'https://files.example.org/u/my%20map.pdf' },
        { question: 'Call me on', kind: 'phone', answer: '+44 20 7946 0011' },
      ],
    }),
    submissions: [
      {
        id: 'q-2',
        fields: [
          ['How was the walk?', 'How was the walk?', 'number', 4],
          ['I agree to be contacted', 'I agree to be contacted', 'boolean', true],
          ['Call me on', 'Call me on', 'phone', '+44 20 7946 0011'],
        ],
        files: [['Upload your map', 'my map.pdf', null, null, 'https://files.example.org/u/my%20map.pdf']],
      },
    ],
  },
  {
    name: 'definitions in a schema object with option ids',
    ...json({
      meta: { form_id: 'bat', form_name: 'Bat count', token: 'bt-1' },
      schema: {
        f1: {
          title: 'Roost',
          type: 'select',
          options: [
            { id: 'o1', label: 'Church' },
            { id: 'o2', label: 'Barn' },
          ],
        },
        f2: { title: 'Count', type: 'number' },
        f3: {
          title: 'Weather',
          type: 'checkboxes',
          options: [
            { id: 'w1', label: 'Dry' },
            { id: 'w2', label: 'Windy' },
          ],
        },
      },
      values: { f1: 'o2', f2: 31, f3: ['w1', 'w2'] },
    }),
    submissions: [
      {
        form: ['bat', 'Bat count'],
        fields: [
          ['f1', 'Roost', 'choice', 'Barn'],
          ['f2', 'Count', 'number', 31],
          ['f3', 'Weather', 'choices', ['Dry', 'Windy']],
        ],
      },
    ],
  },
  {
    name: 'notification mail in HTML with a table',
    type: 'message/rfc822',
    body: lines(
      'From: forms@example.org',
      'To: office@example.org',
      'Subject: =?utf-8?Q?Anmeldung_f=C3=BCr_den_Putztag?=',
      'Date: Mon, 04 May 2026 07:00:00 +0000',
      'MIME-Version: 1.0',
      'Content-Type: text/html; charset=utf-8',
      '',
      '<html><body><h2>Neue Anmeldung</h2><table><tr><td>Vorname:</td><td>Jörg</td></tr><tr><td>E-Mail:</td><td>joerg@example.org</td></tr><tr><td>Personen:</td><td>3</td></tr></table></body></html>',
    ),
    submissions: [
      {
        fields: [
          ['Vorname', 'Vorname', 'text', 'Jörg'],
          ['E-Mail', 'E-Mail', 'email', 'joerg@example.org'],
          ['Personen', 'Personen', 'text', '3'],
        ],
      },
    ],
  },
  {
    name: 'batch below a wrapper, each flat',
    ...json({
      ok: true,
      page: 1,
      submissions: [
        { id: 's1', created_at: '2026-01-01T00:00:00Z', data: { stile: 'N4', broken: 'no' } },
        { id: 's2', created_at: '2026-01-02T00:00:00Z', data: { stile: 'N5', broken: 'yes' } },
      ],
    }),
    submissions: [
      {
        id: 's1',
        submittedAt: '2026-01-01T00:00:00Z',
        fields: [
          ['stile', 'Stile', 'text', 'N4'],
          ['broken', 'Broken', 'text', 'no'],
        ],
      },
      {
        id: 's2',
        submittedAt: '2026-01-02T00:00:00Z',
        fields: [
          ['stile', 'Stile', 'text', 'N5'],
          ['broken', 'Broken', 'text', 'yes'],
        ],
      },
    ],
  },
  {
    name: 'data URI signature and a matrix',
    ...json({
      form: 'Boat loan',
      answers: {
        borrower: 'Ines Prado',
        signature: 'data:image/png;base64,aGVsbG8=',
        condition: { Hull: 'Good', Oars: 'Worn' },
      },
    }),
    submissions: [
      {
        form: ['Boat loan', 'Boat loan'],
        fields: [
          ['borrower', 'Borrower', 'text', 'Ines Prado'],
          ['condition', 'Condition', 'table', { Hull: 'Good', Oars: 'Worn' }],
        ],
        files: [['signature', 'file', 'image/png', 5, null]],
      },
    ],
  },
  {
    name: 'the answers twice: tidy text and fields',
    ...json({
      id: 'tw-1',
      summary: 'Bridge: Low\nWalkers: 12\nDog: yes',
      fields: [
        { id: 'b', label: 'Bridge', value: 'Low' },
        { id: 'w', label: 'Walkers', value: '12' },
        { id: 'd', label: 'Dog', value: 'yes' },
      ],
    }),
    submissions: [
      {
        id: 'tw-1',
        fields: [
          ['b', 'Bridge', 'text', 'Low'],
          ['w', 'Walkers', 'text', '12'],
          ['d', 'Dog', 'text', 'yes'],
        ],
      },
    ],
  },
  {
    name: 'address and full name as objects among labelled answers',
    ...json({
      responses: [
        { id: 'n', prompt: 'Who are you?', answer: { given: 'Amal', family: 'Haddad' } },
        { id: 'a', prompt: 'Where do you live?', answer: { street: '1 Quay', town: 'Alderton', postcode: 'AB1 0ZZ' } },
        { id: 'o', prompt: 'How did you hear of us?', answer: { choice: 'Other', other: 'my aunt' } },
      ],
      reference: 'ref-44',
    }),
    submissions: [
      {
        fields: [
          ['n', 'Who are you?', 'name', { given: 'Amal', family: 'Haddad' }],
          ['a', 'Where do you live?', 'address', { street: '1 Quay', town: 'Alderton', postcode: 'AB1 0ZZ' }],
          ['o', 'How did you hear of us?', 'choice', 'my aunt'],
        ],
      },
    ],
  },
  {
    name: 'JSON lines of plain objects',
    type: 'application/x-ndjson',
    body: '{"ticket":"t1","gauge":"G1","level":1.25}\n{"ticket":"t2","gauge":"G2","level":0.9}\n',
    submissions: [
      {
        fields: [
          ['ticket', 'Ticket', 'text', 't1'],
          ['gauge', 'Gauge', 'text', 'G1'],
          ['level', 'Level', 'number', 1.25],
        ],
      },
      {
        fields: [
          ['ticket', 'Ticket', 'text', 't2'],
          ['gauge', 'Gauge', 'text', 'G2'],
          ['level', 'Level', 'number', 0.9],
        ],
      },
    ],
  },
  {
    name: 'query string with a list and spaces',
    type: null,
    query: 'bench=North+bank&bins%5B%5D=paper&bins%5B%5D=glass&note=two%20bags',
    body: '',
    submissions: [
      {
        fields: [
          ['bench', 'Bench', 'text', 'North bank'],
          ['bins', 'Bins', 'choices', ['paper', 'glass']],
          ['note', 'Note', 'text', 'two bags'],
        ],
      },
    ],
  },
];
