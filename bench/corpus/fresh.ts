import type { Labelled } from './labelled';

const json = (document: unknown) => ({ type: 'application/json', body: JSON.stringify(document) });

/** Payloads written last and never tuned for. When the readers are worked on, write new ones instead of mending for these. */
export const fresh: Labelled[] = [
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
