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

  {
    name: 'dictionary of answers with nested question and typed answer',
    ...json({
      dispatch: { number: 'D-88', sent_at: '2026-08-08T08:08:08Z' },
      form: { code: 'orchard', name: 'Orchard day' },
      replies: {
        r1: { question: { text: 'Trees planted', style: 'counter' }, reply: 14 },
        r2: { question: { text: 'Helpers', style: 'names' }, reply: 'Ana, Bo' },
      },
    }),
    submissions: [
      {
        form: ['orchard', 'Orchard day'],
        submittedAt: '2026-08-08T08:08:08Z',
        fields: [
          ['r1', 'Trees planted', 'number', 14],
          ['r2', 'Helpers', 'text', 'Ana, Bo'],
        ],
      },
    ],
  },
  {
    name: 'French wording, choice ids defined apart',
    ...json({
      soumission_id: 'S1',
      formulaire: { id: 'F1', titre: 'Visite' },
      schema: [
        {
          id: 'c1',
          libelle: 'Quel moulin ?',
          type: 'liste',
          options: [
            { id: '10', libelle: 'Moulin Vert' },
            { id: '11', libelle: 'Moulin Noir' },
          ],
        },
        { id: 'c2', libelle: 'Remarques', type: 'texte' },
      ],
      reponses: { c1: '11', c2: 'Très beau' },
    }),
    submissions: [
      {
        fields: [
          ['c1', 'Quel moulin ?', 'choice', 'Moulin Noir'],
          ['c2', 'Remarques', 'text', 'Très beau'],
        ],
      },
    ],
  },
  {
    name: 'flat with prefix keys and metadata around',
    ...json({
      _id: 'abc',
      _submitted: '2026-01-09T10:00:00Z',
      _ip: '192.0.2.9',
      boat_name: 'Teal',
      length_m: '7.5',
      crew_list: 'Ana\nBo',
      insured: 'on',
      photo: { name: 'teal.png', url: 'https://files.example.org/teal.png', type: 'image/png', size: 44 },
    }),
    submissions: [
      {
        id: 'abc',
        submittedAt: '2026-01-09T10:00:00Z',
        fields: [
          ['boat_name', 'Boat name', 'text', 'Teal'],
          ['length_m', 'Length m', 'text', '7.5'],
          ['crew_list', 'Crew list', 'multiline', 'Ana\nBo'],
          ['insured', 'Insured', 'boolean', true],
        ],
        files: [['photo', 'teal.png', 'image/png', 44, 'https://files.example.org/teal.png']],
      },
    ],
  },
  {
    name: 'list with rating, phone, unanswered ones',
    ...json({
      event_type: 'created',
      entry: {
        entry_id: 4411,
        date_created: '2026-04-04 04:04:04',
        answers: [
          { field_id: '1', field_label: 'How was it?', field_type: 'rating', field_value: 4 },
          { field_id: '2', field_label: 'Mobile', field_type: 'phone', field_value: '+44 20 7946 0777' },
          { field_id: '3', field_label: 'Tell us more', field_type: 'textarea', field_value: null },
          { field_id: '4', field_label: 'Topics', field_type: 'checkbox', field_value: ['Bees', 'Bats'] },
        ],
      },
    }),
    submissions: [
      {
        id: '4411',
        submittedAt: '2026-04-04 04:04:04',
        fields: [
          ['1', 'How was it?', 'number', 4],
          ['2', 'Mobile', 'phone', '+44 20 7946 0777'],
          ['4', 'Topics', 'choices', ['Bees', 'Bats']],
        ],
      },
    ],
  },
  {
    name: 'multipart with JSON part and two files',
    type: 'multipart/form-data; boundary="--q"',
    body: [
      '----q',
      'Content-Disposition: form-data; name="details"',
      'Content-Type: application/json',
      '',
      '{"where":"Lock","severity":3}',
      '----q',
      'Content-Disposition: form-data; name="shots[]"; filename="one.png"',
      'Content-Type: image/png',
      '',
      'abc',
      '----q',
      'Content-Disposition: form-data; name="shots[]"; filename="two.png"',
      'Content-Type: image/png',
      '',
      'abcd',
      '----q--',
    ].join('\r\n'),
    submissions: [
      {
        fields: [
          ['where', 'Where', 'text', 'Lock'],
          ['severity', 'Severity', 'number', 3],
        ],
        files: [
          ['shots', 'one.png', 'image/png', 3, null],
          ['shots', 'two.png', 'image/png', 4, null],
        ],
      },
    ],
  },
  {
    name: 'matrix and table in a list',
    ...json({
      uuid: 'm-1',
      sections: [
        {
          name: 'A',
          items: [
            { item: 'i1', label: 'Rate the paths', kind: 'matrix', data: { North: 'Good', South: 'Poor' } },
            { item: 'i2', label: 'Tools lent', kind: 'table', data: [{ tool: 'Saw', n: 2 }] },
          ],
        },
        { name: 'B', items: [{ item: 'i3', label: 'Finished?', kind: 'yes_no', data: 'yes' }] },
      ],
    }),
    submissions: [
      {
        id: 'm-1',
        fields: [
          ['i1', 'Rate the paths', 'table', { North: 'Good', South: 'Poor' }],
          ['i2', 'Tools lent', 'table', [{ tool: 'Saw', n: 2 }]],
          ['i3', 'Finished?', 'boolean', true],
        ],
      },
    ],
  },
  {
    name: 'CSV with a byte-order mark and quotes',
    type: 'text/csv; charset=utf-8',
    body: '\ufeff"Full name","Your e-mail","Comment"\n"Ines Ford","ines@example.org","said ""yes"", twice"\n',
    submissions: [
      {
        fields: [
          ['Full name', 'Full name', 'name', 'Ines Ford'],
          ['Your e-mail', 'Your e-mail', 'email', 'ines@example.org'],
          ['Comment', 'Comment', 'text', 'said "yes", twice'],
        ],
      },
    ],
  },
  {
    name: 'batch of one, flat, under a key',
    ...json({
      submissions: [{ submission_id: 'q1', submitted_at: '2026-02-03T04:05:06Z', colour: 'Blue', size: 'M' }],
    }),
    submissions: [
      {
        id: 'q1',
        submittedAt: '2026-02-03T04:05:06Z',
        fields: [
          ['colour', 'Colour', 'text', 'Blue'],
          ['size', 'Size', 'text', 'M'],
        ],
      },
    ],
  },
  {
    name: 'plain text stated as JSON',
    ...{ type: 'application/json', body: 'Name: Ines Ford\nPhone: 020 7946 0100\nMessage: Hello\n\nSecond paragraph' },
    submissions: [
      {
        fields: [
          ['Name', 'Name', 'name', 'Ines Ford'],
          ['Phone', 'Phone', 'phone', '020 7946 0100'],
          ['Message', 'Message', 'multiline', 'Hello\n\nSecond paragraph'],
        ],
      },
    ],
  },
  {
    name: 'question text and id the other way round, consent',
    ...json({
      rid: '55',
      qa: [
        { Question: 'Your full address', Code: 'ADDR', Response: '4 Quay, Elden' },
        { Question: 'I agree to be contacted', Code: 'OK', Response: true },
        { Question: 'When shall we come?', Code: 'WHEN', Response: '2026-09-01T09:30' },
      ],
    }),
    submissions: [
      {
        fields: [
          ['ADDR', 'Your full address', 'address', '4 Quay, Elden'],
          ['OK', 'I agree to be contacted', 'boolean', true],
          ['WHEN', 'When shall we come?', 'datetime', '2026-09-01T09:30'],
        ],
      },
    ],
  },
];
