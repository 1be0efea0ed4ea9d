import type { Labelled } from './labelled';

const json = (document: unknown) => ({ type: 'application/json', body: JSON.stringify(document) });

/** Payloads kept unseen while the readers were tuned: they tell how well the readers do on what nobody looked at. */
export const held: Labelled[] = [
  {
    name: 'list with unusual names, numbers as text',
    ...json({
      kind: 'arrival',
      msg: { ref: 'M-1', when: '2026-07-01T08:00:00+01:00' },
      blatt: { kennung: 'bl-2', titel: 'Hofladen' },
      zeilen: [
        { nr: 'z1', frage: 'Welche Kisten?', antwort: 'Äpfel' },
        { nr: 'z2', frage: 'Wie viele Kisten?', antwort: '4' },
        { nr: 'z3', frage: 'Ihre E-Mail', antwort: 'hof@example.org' },
      ],
    }),
    submissions: [
      {
        fields: [
          ['z1', 'Welche Kisten?', 'text', 'Äpfel'],
          ['z2', 'Wie viele Kisten?', 'text', '4'],
          ['z3', 'Ihre E-Mail', 'email', 'hof@example.org'],
        ],
      },
    ],
  },
  {
    name: 'varying property with value suffix',
    ...json({
      id: 'sub_4',
      form_id: 'frm_2',
      created: '2026-05-05T05:05:05Z',
      results: [
        { field: { id: 'a', label: 'Berth' }, text_value: 'B12' },
        { field: { id: 'b', label: 'Nights' }, number_value: 3 },
        { field: { id: 'c', label: 'Shore power?' }, boolean_value: false },
      ],
    }),
    submissions: [
      {
        form: ['frm_2', null],
        id: 'sub_4',
        submittedAt: '2026-05-05T05:05:05Z',
        fields: [
          ['a', 'Berth', 'text', 'B12'],
          ['b', 'Nights', 'number', 3],
          ['c', 'Shore power?', 'boolean', false],
        ],
      },
    ],
  },
  {
    name: 'dictionary keyed by wording',
    ...json({
      submission: { id: 'k1', at: '2026-01-01T00:00:00Z' },
      form: { id: 'f', name: 'Tour' },
      answers: { 'How did you hear of us?': 'Poster', 'Party size': 5, 'Dietary needs': ['Vegan', 'Nut free'] },
    }),
    submissions: [
      {
        form: ['f', 'Tour'],
        id: 'k1',
        submittedAt: '2026-01-01T00:00:00Z',
        fields: [
          ['How did you hear of us?', 'How did you hear of us?', 'text', 'Poster'],
          ['Party size', 'Party size', 'number', 5],
          ['Dietary needs', 'Dietary needs', 'choices', ['Vegan', 'Nut free']],
        ],
      },
    ],
  },
  {
    name: 'labels in a map apart',
    ...json({
      labels: { f_1: 'Hive number', f_2: 'Queen seen?', f_3: 'Frames of brood' },
      values: { f_1: 'H7', f_2: 'yes', f_3: 6 },
      submitted_on: '2026-06-06T06:06:06Z',
    }),
    submissions: [
      {
        submittedAt: '2026-06-06T06:06:06Z',
        fields: [
          ['f_1', 'Hive number', 'text', 'H7'],
          ['f_2', 'Queen seen?', 'text', 'yes'],
          ['f_3', 'Frames of brood', 'number', 6],
        ],
      },
    ],
  },
  {
    name: 'flat camelCase',
    ...json({
      formName: 'Kiln booking',
      submittedAt: '2026-03-03T03:03:03Z',
      potterName: 'Lou Vane',
      kilnTemp: 1240,
      glazeTypes: ['Ash', 'Celadon'],
      phoneNumber: '020 7946 0555',
      pickupDate: '2026-03-09',
      wantsReminder: true,
    }),
    submissions: [
      {
        form: ['Kiln booking', 'Kiln booking'],
        submittedAt: '2026-03-03T03:03:03Z',
        fields: [
          ['potterName', 'Potter name', 'name', 'Lou Vane'],
          ['kilnTemp', 'Kiln temp', 'number', 1240],
          ['glazeTypes', 'Glaze types', 'choices', ['Ash', 'Celadon']],
          ['phoneNumber', 'Phone number', 'phone', '020 7946 0555'],
          ['pickupDate', 'Pickup date', 'date', '2026-03-09'],
          ['wantsReminder', 'Wants reminder', 'boolean', true],
        ],
      },
    ],
  },
  {
    name: 'checkbox group one key an option, JSON',
    ...json({ response_id: 'r9', data: { visited: { Museum: true, Mill: false, Weir: true }, comment: 'ok' } }),
    submissions: [
      {
        id: 'r9',
        fields: [
          ['visited', 'Visited', 'choices', ['Museum', 'Weir']],
          ['comment', 'Comment', 'text', 'ok'],
        ],
      },
    ],
  },
  {
    name: 'data URI signature and stated upload',
    ...json({
      entry: 'e5',
      elements: [
        { name: 'q-sign', caption: 'Sign here', element: 'signature', content: 'data:image/png;base64,aGVsbG8=' },
        {
          name: 'q-plan',
          caption: 'Plan',
          element: 'fileupload',
          content: ['https://files.example.org/p/plan%201.pdf'],
        },
        { name: 'q-who', caption: 'Who?', element: 'textbox', content: 'Bo' },
      ],
    }),
    submissions: [
      {
        id: 'e5',
        fields: [['q-who', 'Who?', 'text', 'Bo']],
        files: [
          ['q-sign', 'file', 'image/png', 5, null],
          ['q-plan', 'plan 1.pdf', null, null, 'https://files.example.org/p/plan%201.pdf'],
        ],
      },
    ],
  },
  {
    name: 'file metadata inside a string',
    ...json({
      submissionId: 'p-3',
      hall: 'North',
      scans: '[{"fileName":"a.pdf","fileUrl":"https://files.example.org/a.pdf","fileSize":99}]',
    }),
    submissions: [
      {
        id: 'p-3',
        fields: [['hall', 'Hall', 'text', 'North']],
        files: [['scans', 'a.pdf', null, 99, 'https://files.example.org/a.pdf']],
      },
    ],
  },
  {
    name: 'batch of labelled lists below',
    ...json({
      cursor: 'zz',
      responses: [
        {
          response_id: 'g1',
          submitted: '2026-02-01T00:00:00Z',
          answers: [
            { qid: 'x', q: 'Row or sail?', a: 'Row' },
            { qid: 'y', q: 'How often?', a: 'Weekly' },
          ],
        },
        { response_id: 'g2', submitted: '2026-02-02T00:00:00Z', answers: [{ qid: 'x', q: 'Row or sail?', a: 'Sail' }] },
      ],
    }),
    submissions: [
      {
        id: 'g1',
        submittedAt: '2026-02-01T00:00:00Z',
        fields: [
          ['x', 'Row or sail?', 'text', 'Row'],
          ['y', 'How often?', 'text', 'Weekly'],
        ],
      },
      { id: 'g2', submittedAt: '2026-02-02T00:00:00Z', fields: [['x', 'Row or sail?', 'text', 'Sail']] },
    ],
  },
  {
    name: 'query string',
    type: null,
    query: 'gate=East&opened=true&note=two%20words&tag[]=a&tag[]=b',
    body: '',
    submissions: [
      {
        fields: [
          ['gate', 'Gate', 'text', 'East'],
          ['opened', 'Opened', 'text', 'true'],
          ['note', 'Note', 'text', 'two words'],
          ['tag', 'Tag', 'choices', ['a', 'b']],
        ],
      },
    ],
  },
  {
    name: 'tab-separated without header',
    type: 'text/tab-separated-values',
    body: '2026-01-01\tEast\tB-1\n2026-01-02\tWest\tB-2\n',
    submissions: [
      {
        fields: [
          ['column_1', 'Column 1', 'date', '2026-01-01'],
          ['column_2', 'Column 2', 'text', 'East'],
          ['column_3', 'Column 3', 'text', 'B-1'],
        ],
      },
      {
        fields: [
          ['column_1', 'Column 1', 'date', '2026-01-02'],
          ['column_2', 'Column 2', 'text', 'West'],
          ['column_3', 'Column 3', 'text', 'B-2'],
        ],
      },
    ],
  },
  {
    name: 'plain XML elements',
    type: 'application/xml',
    body: '<booking><reference>BK-7</reference><guest><first_name>Ira</first_name><last_name>Moss</last_name></guest><nights>3</nights><meals><meal>Breakfast</meal><meal>Supper</meal></meals></booking>',
    submissions: [
      {
        id: 'BK-7',
        fields: [
          ['guest', 'Guest', 'name', { first_name: 'Ira', last_name: 'Moss' }],
          ['nights', 'Nights', 'text', '3'],
          ['meals', 'Meals', 'choices', ['Breakfast', 'Supper']],
        ],
      },
    ],
  },
  {
    name: 'HTML mail with a table',
    type: 'message/rfc822',
    body: [
      'From: web@example.org',
      'Subject: New booking',
      'Date: Wed, 04 Mar 2026 09:00:00 +0000',
      'Content-Type: text/html; charset=utf-8',
      '',
      '<html><body><p>Guest: Ira Moss</p><p>Nights: 3</p><p>Room: Garden &amp; pond</p></body></html>',
    ].join('\r\n'),
    submissions: [
      {
        submittedAt: 'Wed, 04 Mar 2026 09:00:00 +0000',
        fields: [
          ['Guest', 'Guest', 'text', 'Ira Moss'],
          ['Nights', 'Nights', 'text', '3'],
          ['Room', 'Room', 'text', 'Garden & pond'],
        ],
      },
    ],
  },
  {
    name: 'option ids on the item, other text beside',
    ...json({
      ref: 'o-1',
      fields: [
        {
          id: 'm1',
          text: 'Mooring type',
          type: 'select',
          options: [
            { value: '1', text: 'Swing' },
            { value: '2', text: 'Pontoon' },
          ],
          answer: '2',
        },
        {
          id: 'm2',
          text: 'Extras',
          type: 'multiselect',
          options: [
            { value: 'w', text: 'Water' },
            { value: 'p', text: 'Power' },
            { value: 'other', text: 'Other' },
          ],
          answer: ['p', 'other'],
          other_text: 'Ice',
        },
      ],
    }),
    submissions: [
      {
        id: 'o-1',
        fields: [
          ['m1', 'Mooring type', 'choice', 'Pontoon'],
          ['m2', 'Extras', 'choices', ['Power', 'Ice']],
        ],
      },
    ],
  },
  {
    name: 'windows-1252 urlencoded',
    type: 'application/x-www-form-urlencoded; charset=windows-1252',
    body: 'ort=K%F6ln&stra%DFe=Am+Kai',
    submissions: [
      {
        fields: [
          ['ort', 'Ort', 'text', 'Köln'],
          ['straße', 'Straße', 'text', 'Am Kai'],
        ],
      },
    ],
  },
];
