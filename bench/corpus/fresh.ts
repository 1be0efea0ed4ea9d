import type { Labelled } from './labelled';

const json = (document: unknown) => ({ type: 'application/json', body: JSON.stringify(document) });

/** Payloads written last and never tuned for. When the readers are worked on, write new ones instead of mending for these. */
export const fresh: Labelled[] = [
  {
    name: 'Spanish list with hidden fields beside',
    ...json({
      envio: { id: 'en-4', fecha: '2026-05-01T09:00:00Z' },
      formulario: { id: 'fo-1', nombre: 'Huerto' },
      respuestas: [
        { pregunta_id: 'p1', pregunta: '¿Qué parcela quiere?', respuesta: 'Norte' },
        { pregunta_id: 'p2', pregunta: 'Correo', respuesta: 'sol@example.org' },
        { pregunta_id: 'p3', pregunta: '¿Herramientas?', respuesta: ['Pala', 'Azada'] },
      ],
      ocultos: { campaign: 'spring' },
    }),
    submissions: [
      {
        form: ['fo-1', 'Huerto'],
        id: 'en-4',
        submittedAt: '2026-05-01T09:00:00Z',
        fields: [
          ['p1', '¿Qué parcela quiere?', 'text', 'Norte'],
          ['p2', 'Correo', 'email', 'sol@example.org'],
          ['p3', '¿Herramientas?', 'choices', ['Pala', 'Azada']],
        ],
      },
    ],
  },
  {
    name: 'answers by id with choice objects and a file list',
    ...json({
      response: { id: 'rs-1', submitted_at: '2026-07-07T07:07:07Z' },
      survey: { id: 'sv', title: 'Jetty check' },
      fields: [
        {
          field_ref: 'jf1',
          field_title: 'Planks loose?',
          answer_type: 'single_choice',
          answer: { key: 'y', label: 'Several' },
        },
        {
          field_ref: 'jf2',
          field_title: 'Pictures of it',
          answer_type: 'file_upload',
          answer: [
            {
              file_name: 'p1.png',
              file_size: 12,
              mime_type: 'image/png',
              download_url: 'https://files.example.org/p1',
            },
            {
              file_name: 'p2.png',
              file_size: 13,
              mime_type: 'image/png',
              download_url: 'https://files.example.org/p2',
            },
          ],
        },
        { field_ref: 'jf3', field_title: 'Checked on', answer_type: 'date', answer: '2026-07-06' },
      ],
    }),
    submissions: [
      {
        form: ['sv', 'Jetty check'],
        id: 'rs-1',
        submittedAt: '2026-07-07T07:07:07Z',
        fields: [
          ['jf1', 'Planks loose?', 'choice', 'Several'],
          ['jf3', 'Checked on', 'date', '2026-07-06'],
        ],
        files: [
          ['jf2', 'p1.png', 'image/png', 12, 'https://files.example.org/p1'],
          ['jf2', 'p2.png', 'image/png', 13, 'https://files.example.org/p2'],
        ],
      },
    ],
  },
  {
    name: 'opaque keys, labels apart as a list of pairs',
    ...json({
      record_id: 'z9',
      created_at: '2026-03-01T00:00:00Z',
      values: { '8f3a': 'Reed bed', '77c1': ['Cut', 'Burn'], '19de': 4 },
      columns: [
        { column: '8f3a', header: 'Where is it?' },
        { column: '77c1', header: 'What was done?' },
        { column: '19de', header: 'Hours' },
      ],
    }),
    submissions: [
      {
        id: 'z9',
        submittedAt: '2026-03-01T00:00:00Z',
        fields: [
          ['8f3a', 'Where is it?', 'text', 'Reed bed'],
          ['77c1', 'What was done?', 'choices', ['Cut', 'Burn']],
          ['19de', 'Hours', 'number', 4],
        ],
      },
    ],
  },
  {
    name: 'XML with sections',
    type: 'application/xml',
    body: '<submission id="x-7" date="2026-02-02T10:00:00Z"><section name="you"><field key="nm" label="Your name">Ada Birch</field><field key="ml" label="Your e-mail">ada@example.org</field></section><section name="visit"><field key="pp" label="Party">6</field><field key="nt" label="Notes">late &#8211; sorry</field></section></submission>',
    submissions: [
      {
        id: 'x-7',
        submittedAt: '2026-02-02T10:00:00Z',
        fields: [
          ['nm', 'Your name', 'name', 'Ada Birch'],
          ['ml', 'Your e-mail', 'email', 'ada@example.org'],
          ['pp', 'Party', 'text', '6'],
          ['nt', 'Notes', 'text', 'late – sorry'],
        ],
      },
    ],
  },
  {
    name: 'flat, other beside, consent as text',
    type: 'application/x-www-form-urlencoded',
    body: new URLSearchParams([
      ['habitat', 'Other'],
      ['habitat_other', 'Old quarry'],
      ['species[]', 'Newt'],
      ['species[]', 'Toad'],
      ['i_consent', 'on'],
      ['visited_at', '2026-04-04T18:30'],
      ['website', 'https://newts.example.org'],
      ['user_agent', 'x/1'],
    ]).toString(),
    submissions: [
      {
        fields: [
          ['habitat', 'Habitat', 'text', 'Old quarry'],
          ['species', 'Species', 'choices', ['Newt', 'Toad']],
          ['i_consent', 'I consent', 'boolean', true],
          ['visited_at', 'Visited at', 'datetime', '2026-04-04T18:30'],
          ['website', 'Website', 'url', 'https://newts.example.org'],
        ],
      },
    ],
  },
  {
    name: 'mail, quoted-printable text with long values',
    type: 'message/rfc822',
    body: [
      'From: forms@example.org',
      'Subject: =?iso-8859-1?Q?Anfrage_=FCber_das_Formular?=',
      'Message-Id: <q-1@example.org>',
      'Date: Fri, 06 Mar 2026 12:00:00 +0100',
      'Content-Type: text/plain; charset=iso-8859-1',
      'Content-Transfer-Encoding: quoted-printable',
      '',
      'Name: J=F6rg Amsel',
      'Telefon: 020 7946 0321',
      'Nachricht: Wir kommen gern,',
      'aber erst im Mai.',
      '',
    ].join('\r\n'),
    submissions: [
      {
        id: '<q-1@example.org>',
        submittedAt: 'Fri, 06 Mar 2026 12:00:00 +0100',
        fields: [
          ['Name', 'Name', 'name', 'Jörg Amsel'],
          ['Telefon', 'Telefon', 'phone', '020 7946 0321'],
          ['Nachricht', 'Nachricht', 'multiline', 'Wir kommen gern,\naber erst im Mai.'],
        ],
      },
    ],
  },
  {
    name: 'batch of labelled dictionaries',
    ...json({
      data: [
        {
          id: 'd1',
          received_at: '2026-01-01T01:01:01Z',
          inputs: {
            i1: { label: 'Kayak no.', type: 'text', value: 'K4' },
            i2: { label: 'Returned?', type: 'yesno', value: true },
          },
        },
        {
          id: 'd2',
          received_at: '2026-01-02T01:01:01Z',
          inputs: {
            i1: { label: 'Kayak no.', type: 'text', value: 'K9' },
            i2: { label: 'Returned?', type: 'yesno', value: false },
          },
        },
      ],
    }),
    submissions: [
      {
        id: 'd1',
        submittedAt: '2026-01-01T01:01:01Z',
        fields: [
          ['i1', 'Kayak no.', 'text', 'K4'],
          ['i2', 'Returned?', 'boolean', true],
        ],
      },
      {
        id: 'd2',
        submittedAt: '2026-01-02T01:01:01Z',
        fields: [
          ['i1', 'Kayak no.', 'text', 'K9'],
          ['i2', 'Returned?', 'boolean', false],
        ],
      },
    ],
  },
  {
    name: 'UTF-16 JSON with a byte-order mark is left to the tests; here: numbers and nulls',
    ...json({ id: 12, answers: { depth_cm: 140, clarity: null, flow: 0, safe: false, remark: '   ' } }),
    submissions: [
      {
        id: '12',
        fields: [
          ['depth_cm', 'Depth cm', 'number', 140],
          ['flow', 'Flow', 'number', 0],
          ['safe', 'Safe', 'boolean', false],
        ],
      },
    ],
  },
];
