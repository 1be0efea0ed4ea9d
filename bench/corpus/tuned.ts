import type { Labelled } from './labelled';

const json = (document: unknown) => ({ type: 'application/json', body: JSON.stringify(document) });
const crlf = (lines: string[]) => lines.join('\r\n');

/** Payloads that were looked at while the readers were written. All names in them are invented. */
export const tuned: Labelled[] = [
  {
    name: 'list, varying property, envelope around it',
    ...json({
      happening: 'form.done',
      occurrence: 'oc-81',
      survey: { handle: 'kiosk', headline: 'Kiosk visit' },
      landed_at: '2026-05-02T10:00:00Z',
      sheet: {
        rows: [
          { slot: 'a1', asked: 'Who are you?', sort: 'brief', brief: ' Ines ' },
          { slot: 'a2', asked: 'How many of you?', sort: 'amount', amount: 3 },
          { slot: 'a3', asked: 'What did you like?', sort: 'several', several: ['Tea', 'Cake'] },
          { slot: 'a4', asked: 'Anything more?', sort: 'brief' },
        ],
      },
    }),
    submissions: [
      {
        form: ['kiosk', null],
        submittedAt: '2026-05-02T10:00:00Z',
        fields: [
          ['a1', 'Who are you?', 'text', 'Ines'],
          ['a2', 'How many of you?', 'number', 3],
          ['a3', 'What did you like?', 'choices', ['Tea', 'Cake']],
        ],
      },
    ],
  },
  {
    name: 'flat with list in text, consent, file link',
    ...json({
      entry_id: 77,
      form_title: 'Boat hire',
      boat_type: 'Canoe',
      'days[]': ['Sat', 'Sun'],
      extras: '["Paddle","Vest"]',
      your_email: 'ola@example.org',
      licence_scan: 'https://files.example.org/u/licence%20front.png',
      agree_terms: 'yes',
      remarks: 'line one\r\nline two',
      blank: '',
    }),
    submissions: [
      {
        form: ['Boat hire', 'Boat hire'],
        id: '77',
        fields: [
          ['boat_type', 'Boat type', 'text', 'Canoe'],
          ['days', 'Days', 'choices', ['Sat', 'Sun']],
          ['extras', 'Extras', 'choices', ['Paddle', 'Vest']],
          ['your_email', 'Your email', 'email', 'ola@example.org'],
          ['agree_terms', 'Agree terms', 'boolean', true],
          ['remarks', 'Remarks', 'multiline', 'line one\nline two'],
        ],
        files: [['licence_scan', 'licence front.png', null, null, 'https://files.example.org/u/licence%20front.png']],
      },
    ],
  },
  {
    name: 'dictionary of labelled answers with compound values',
    ...json({
      submissionRef: 's-9',
      formRef: 'f-2',
      formName: 'Guided walk',
      content: {
        n3: { caption: 'Full name', kind: 'control_fullname', reply: { first: 'Tove', last: 'Lind' } },
        n4: {
          caption: 'Address',
          kind: 'control_address',
          reply: { street: '4 Quay', city: 'Elden', postcode: 'E1 2AB' },
        },
        n5: { caption: 'Group size', kind: 'control_number', reply: '12' },
        n6: { caption: 'Notes', kind: 'control_textarea', reply: '' },
      },
    }),
    submissions: [
      {
        form: ['f-2', 'Guided walk'],
        id: 's-9',
        fields: [
          ['n3', 'Full name', 'name', { first: 'Tove', last: 'Lind' }],
          ['n4', 'Address', 'address', { street: '4 Quay', city: 'Elden', postcode: 'E1 2AB' }],
          ['n5', 'Group size', 'number', '12'],
        ],
      },
    ],
  },
  {
    name: 'pages with groups',
    ...json({
      id: 'r-1',
      pages: [
        { heading: 'You', questions: [{ ref: 'p1', title: 'Given name', type: 'text', answer: 'Mo' }] },
        {
          heading: 'Visit',
          questions: [
            { ref: 'p2', title: 'Date of visit', type: 'date', answer: '2026-03-04' },
            { ref: 'p3', title: 'Guests', type: 'number', answer: 2 },
          ],
        },
      ],
    }),
    submissions: [
      {
        id: 'r-1',
        fields: [
          ['p1', 'Given name', 'name', 'Mo'],
          ['p2', 'Date of visit', 'date', '2026-03-04'],
          ['p3', 'Guests', 'number', 2],
        ],
      },
    ],
  },
  {
    name: 'definitions apart from answers, option ids',
    ...json({
      token: 'tk-5',
      definition: {
        id: 'df-1',
        title: 'Allotment',
        fields: [
          {
            id: 'u1',
            title: 'Plot wanted',
            type: 'radio',
            choices: [
              { id: 'c1', label: 'North' },
              { id: 'c2', label: 'South' },
            ],
          },
          {
            id: 'u2',
            title: 'Tools owned',
            type: 'checkboxes',
            choices: [
              { id: 'd1', label: 'Spade' },
              { id: 'd2', label: 'Fork' },
              { id: 'd3', label: 'Hoe' },
            ],
          },
          { id: 'u3', title: 'Since when?', type: 'text' },
        ],
      },
      answers: { u1: 'c2', u2: ['d1', 'd3'], u3: 'spring' },
    }),
    submissions: [
      {
        id: 'tk-5',
        fields: [
          ['u1', 'Plot wanted', 'choice', 'South'],
          ['u2', 'Tools owned', 'choices', ['Spade', 'Hoe']],
          ['u3', 'Since when?', 'text', 'spring'],
        ],
      },
    ],
  },
  {
    name: 'answers list that refers to definitions',
    ...json({
      questions: [
        { key: 'k1', wording: 'Which gate?', format: 'short' },
        { key: 'k2', wording: 'Open or shut?', format: 'yes_no' },
      ],
      responses: [
        { question_key: 'k1', value: 'East' },
        { question_key: 'k2', value: true },
      ],
    }),
    submissions: [
      {
        fields: [
          ['k1', 'Which gate?', 'text', 'East'],
          ['k2', 'Open or shut?', 'boolean', true],
        ],
      },
    ],
  },
  {
    name: 'batch of one, from an older generation',
    ...json([
      {
        uid: 'b1',
        stamp_created: '2026-01-02T03:04:05Z',
        replies: [
          { no: 'q1', question: 'Colour?', value: 'red' },
          { no: 'q2', question: 'Size?', value: 'XL' },
        ],
      },
    ]),
    submissions: [
      {
        id: 'b1',
        submittedAt: '2026-01-02T03:04:05Z',
        fields: [
          ['q1', 'Colour?', 'text', 'red'],
          ['q2', 'Size?', 'text', 'XL'],
        ],
      },
    ],
  },
  {
    name: 'batch below, flat items',
    ...json({
      page: 1,
      total: 2,
      entries: [
        { id: 1, created_at: '2026-01-02T03:04:05Z', gate: 'East', badge: 'B-1' },
        { id: 2, created_at: '2026-01-02T04:04:05Z', gate: 'West', badge: 'B-7' },
      ],
    }),
    submissions: [
      {
        id: '1',
        submittedAt: '2026-01-02T03:04:05Z',
        fields: [
          ['gate', 'Gate', 'text', 'East'],
          ['badge', 'Badge', 'text', 'B-1'],
        ],
      },
      {
        id: '2',
        submittedAt: '2026-01-02T04:04:05Z',
        fields: [
          ['gate', 'Gate', 'text', 'West'],
          ['badge', 'Badge', 'text', 'B-7'],
        ],
      },
    ],
  },
  {
    name: 'the submission inside a JSON string',
    type: 'application/x-www-form-urlencoded',
    body: new URLSearchParams({
      formID: '2290',
      submissionID: '881',
      payload: JSON.stringify({ q1_shed: 'Big one', q2_roof: 'Tin', q3_windows: 4 }),
    }).toString(),
    submissions: [
      {
        form: ['2290', null],
        id: '881',
        fields: [
          ['q1_shed', 'Q1 shed', 'text', 'Big one'],
          ['q2_roof', 'Q2 roof', 'text', 'Tin'],
          ['q3_windows', 'Q3 windows', 'number', 4],
        ],
      },
    ],
  },
  {
    name: 'twice: tidy text and fields',
    ...json({
      response_id: 'x-3',
      digest: 'Ferry: Alba\nSeats: 4\nHarbour: Muness\nMeal: Fish',
      fields: [
        { id: 'f1', label: 'Ferry', value: 'Alba' },
        { id: 'f2', label: 'Seats', value: '4' },
        { id: 'f3', label: 'Harbour', value: 'Muness' },
        { id: 'f4', label: 'Meal', value: 'Fish' },
      ],
    }),
    submissions: [
      {
        id: 'x-3',
        fields: [
          ['f1', 'Ferry', 'text', 'Alba'],
          ['f2', 'Seats', 'text', '4'],
          ['f3', 'Harbour', 'text', 'Muness'],
          ['f4', 'Meal', 'text', 'Fish'],
        ],
      },
    ],
  },
  {
    name: 'label: value lines',
    type: 'text/plain',
    body: 'A new enquiry came in.\n\nSchool: Elden Primary\nPupils: 24\nWishes: see the weir\nand the mill\nE-mail: head@example.org\n-- \nSent by the web form',
    submissions: [
      {
        fields: [
          ['School', 'School', 'text', 'Elden Primary'],
          ['Pupils', 'Pupils', 'text', '24'],
          ['Wishes', 'Wishes', 'multiline', 'see the weir\nand the mill'],
          ['E-mail', 'E-mail', 'email', 'head@example.org'],
        ],
      },
    ],
  },
  {
    name: 'urlencoded with nested brackets',
    type: 'application/x-www-form-urlencoded',
    body: 'kit%5B0%5D%5Bitem%5D=Strips&kit%5B0%5D%5Bqty%5D=2&kit%5B1%5D%5Bitem%5D=Net&kit%5B1%5D%5Bqty%5D=1&deliver%5Bstreet%5D=4+Quay&deliver%5Bcity%5D=Elden&needed_by=2026-06-01&signs%5BFoam%5D=1&signs%5BLitter%5D=',
    submissions: [
      {
        fields: [
          [
            'kit',
            'Kit',
            'table',
            [
              { item: 'Strips', qty: '2' },
              { item: 'Net', qty: '1' },
            ],
          ],
          ['deliver', 'Deliver', 'address', { street: '4 Quay', city: 'Elden' }],
          ['needed_by', 'Needed by', 'date', '2026-06-01'],
          ['signs', 'Signs', 'choices', ['Foam']],
        ],
      },
    ],
  },
  {
    name: 'multipart with a file and an empty file input',
    type: 'multipart/form-data; boundary=xx1',
    body: crlf([
      '--xx1',
      'Content-Disposition: form-data; name="what"',
      '',
      'Oil at the weir',
      '--xx1',
      'Content-Disposition: form-data; name="pics"; filename="häfen.jpg"',
      'Content-Type: image/jpeg',
      '',
      'hello',
      '--xx1',
      'Content-Disposition: form-data; name="clip"; filename=""',
      'Content-Type: application/octet-stream',
      '',
      '',
      '--xx1--',
      '',
    ]),
    submissions: [
      { fields: [['what', 'What', 'text', 'Oil at the weir']], files: [['pics', 'häfen.jpg', 'image/jpeg', 5, null]] },
    ],
  },
  {
    name: 'XML with attributes',
    type: 'text/xml',
    body: '<?xml version="1.0"?><return id="z-4"><form id="f9" name="Tide log"/><replies><reply ref="r1" label="Tide &amp; wind">High</reply><reply ref="r2" label="Boats">3</reply></replies></return>',
    submissions: [
      {
        form: ['f9', 'Tide log'],
        id: 'z-4',
        fields: [
          ['r1', 'Tide & wind', 'text', 'High'],
          ['r2', 'Boats', 'text', '3'],
        ],
      },
    ],
  },
  {
    name: 'CSV with semicolons',
    type: 'text/csv',
    body: 'Gate;Badge no.;Time in;Remark\r\nEast;B-1;08:15;"ok; fine"\r\nWest;B-7;09:40;\r\n',
    submissions: [
      {
        fields: [
          ['Gate', 'Gate', 'text', 'East'],
          ['Badge no.', 'Badge no.', 'text', 'B-1'],
          ['Time in', 'Time in', 'time', '08:15'],
          ['Remark', 'Remark', 'text', 'ok; fine'],
        ],
      },
      {
        fields: [
          ['Gate', 'Gate', 'text', 'West'],
          ['Badge no.', 'Badge no.', 'text', 'B-7'],
          ['Time in', 'Time in', 'time', '09:40'],
        ],
      },
    ],
  },
  {
    name: 'mail with encoded words and an attachment',
    type: 'message/rfc822',
    body: crlf([
      'From: =?utf-8?Q?Gr=C3=BCne_Schule?= <schule@example.org>',
      'To: walks@example.org',
      'Subject: Visit',
      'Message-ID: <m1@example.org>',
      'Date: Tue, 03 Mar 2026 10:00:00 +0000',
      'MIME-Version: 1.0',
      'Content-Type: multipart/mixed; boundary="b=1"',
      '',
      '--b=1',
      'Content-Type: text/plain; charset=utf-8',
      'Content-Transfer-Encoding: quoted-printable',
      '',
      'School: Gr=C3=BCne Schule',
      'Pupils: 18',
      '--b=1',
      'Content-Type: application/pdf; name="list.pdf"',
      'Content-Disposition: attachment; filename="list.pdf"',
      'Content-Transfer-Encoding: base64',
      '',
      'aGVsbG8=',
      '--b=1--',
      '',
    ]),
    submissions: [
      {
        id: '<m1@example.org>',
        submittedAt: 'Tue, 03 Mar 2026 10:00:00 +0000',
        fields: [
          ['School', 'School', 'text', 'Grüne Schule'],
          ['Pupils', 'Pupils', 'text', '18'],
        ],
        files: [['attachments', 'list.pdf', 'application/pdf', 5, null]],
      },
    ],
  },
  {
    name: 'option objects, other, files in a list',
    ...json({
      response: { uuid: 'u-1', finished: '2026-02-02T02:02:02Z' },
      form: { uuid: 'ff', title: 'Nest check' },
      items: [
        { uid: 'i1', prompt: 'Species', control: 'dropdown', answer: { id: 4, label: 'Heron' } },
        {
          uid: 'i2',
          prompt: 'Seen',
          control: 'checkboxes',
          answer: { labels: ['Eggs', 'Adult'], other: 'one feather' },
        },
        {
          uid: 'i3',
          prompt: 'Pictures',
          control: 'upload',
          answer: [{ name: 'n1.jpg', download: 'https://files.example.org/n1', bytes: 20, mime: 'image/jpeg' }],
        },
        { uid: 'i4', prompt: 'Grid', control: 'matrix', answer: { Morning: 'Calm', Evening: 'Windy' } },
      ],
    }),
    submissions: [
      {
        form: ['ff', 'Nest check'],
        id: 'u-1',
        submittedAt: '2026-02-02T02:02:02Z',
        fields: [
          ['i1', 'Species', 'choice', 'Heron'],
          ['i2', 'Seen', 'choices', ['Eggs', 'Adult', 'one feather']],
          ['i4', 'Grid', 'table', { Morning: 'Calm', Evening: 'Windy' }],
        ],
        files: [['i3', 'n1.jpg', 'image/jpeg', 20, 'https://files.example.org/n1']],
      },
    ],
  },
  {
    name: 'sections in sections, flat',
    ...json({
      meta: { ip: '192.0.2.1', agent: 'x' },
      data: {
        visitor: { given: 'Ada', family: 'Birch' },
        contact: { phone_number: '020 7946 0001', email: 'ada@example.org' },
        visit: { when: { day: '2026-04-01', slot: '10:30' }, guide_wanted: true },
      },
    }),
    submissions: [
      {
        fields: [
          ['visitor', 'Visitor', 'name', { given: 'Ada', family: 'Birch' }],
          ['phone_number', 'Phone number', 'phone', '020 7946 0001'],
          ['email', 'Email', 'email', 'ada@example.org'],
          ['day', 'Day', 'date', '2026-04-01'],
          ['slot', 'Slot', 'time', '10:30'],
          ['guide_wanted', 'Guide wanted', 'boolean', true],
        ],
      },
    ],
  },
  {
    name: 'JSON lines',
    type: 'application/x-ndjson',
    body: '{"id":"n1","gate":"East"}\n{"id":"n2","gate":"West"}\n',
    submissions: [
      { id: 'n1', fields: [['gate', 'Gate', 'text', 'East']] },
      { id: 'n2', fields: [['gate', 'Gate', 'text', 'West']] },
    ],
  },
  {
    name: 'question wording as keys',
    ...json({
      'Which river?': 'Alder',
      'How deep was it?': '2 m',
      'Your phone': '+44 20 7946 0002',
      'Submitted at': '2026-11-01 10:00',
    }),
    submissions: [
      {
        fields: [
          ['Which river?', 'Which river?', 'text', 'Alder'],
          ['How deep was it?', 'How deep was it?', 'text', '2 m'],
          ['Your phone', 'Your phone', 'phone', '+44 20 7946 0002'],
        ],
        submittedAt: '2026-11-01 10:00',
      },
    ],
  },
];
