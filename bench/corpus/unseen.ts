import type { Labelled } from './labelled';

const json = (document: unknown) => ({ type: 'application/json', body: JSON.stringify(document) });
const lines = (...all: string[]) => all.join('\r\n');
type Submission = Labelled['submissions'][number];
const one = (submission: Submission): Pick<Labelled, 'submissions'> => ({ submissions: [submission] });

/** Written after the readers were last worked on, measured, and left alone. */
export const unseen: Labelled[] = [
  {
    name: 'list of triples under capital names',
    ...json({
      FormName: 'Kiln booking',
      EntryId: 'KB-12',
      Fields: [
        { Name: 'glaze', Title: 'Which glaze?', Value: 'Celadon' },
        { Name: 'pieces', Title: 'How many pieces?', Value: 6 },
        { Name: 'firing', Title: 'Firing day', Value: '2026-09-01' },
      ],
    }),
    ...one({
      form: ['Kiln booking', 'Kiln booking'],
      id: 'KB-12',
      fields: [
        ['glaze', 'Which glaze?', 'text', 'Celadon'],
        ['pieces', 'How many pieces?', 'number', 6],
        ['firing', 'Firing day', 'date', '2026-09-01'],
      ],
    }),
  },
  {
    name: 'flat, camel case, with envelope keys among the answers',
    ...json({
      responseId: 'r-77',
      submittedAt: '2026-08-08T08:08:08Z',
      ipAddress: '192.0.2.9',
      gardenPlot: '14b',
      waterButts: 2,
      plotHolder: 'Sefa Aydın',
      contactEmail: 'sefa@example.org',
    }),
    ...one({
      id: 'r-77',
      submittedAt: '2026-08-08T08:08:08Z',
      fields: [
        ['gardenPlot', 'Garden plot', 'text', '14b'],
        ['waterButts', 'Water butts', 'number', 2],
        ['plotHolder', 'Plot holder', 'text', 'Sefa Aydın'],
        ['contactEmail', 'Contact email', 'email', 'sefa@example.org'],
      ],
    }),
  },
  {
    name: 'definitions as a map of wordings beside the values',
    ...json({
      entry: { id: 901, date: '2026-04-04T04:04:04Z' },
      questions: { q_a: 'What did you hear?', q_b: 'For how long?', q_c: 'Would you record again?' },
      data: { q_a: 'Curlew', q_b: '5 minutes', q_c: 'yes' },
    }),
    ...one({
      id: '901',
      submittedAt: '2026-04-04T04:04:04Z',
      fields: [
        ['q_a', 'What did you hear?', 'text', 'Curlew'],
        ['q_b', 'For how long?', 'text', '5 minutes'],
        ['q_c', 'Would you record again?', 'text', 'yes'],
      ],
    }),
  },
  {
    name: 'answer in a property named after its type, in French',
    ...json({
      formulaire: { id: 'fr-3', titre: 'Journée propre' },
      reponse_id: 'rp-3',
      reponses: [
        { champ: 'c1', libelle: 'Votre prénom', type: 'texte', texte: 'Maëlle' },
        { champ: 'c2', libelle: 'Nombre de sacs', type: 'nombre', nombre: 3 },
        { champ: 'c3', libelle: 'Trouvé', type: 'choix', choix: ['Verre', 'Plastique'] },
      ],
    }),
    ...one({
      form: ['fr-3', 'Journée propre'],
      id: 'rp-3',
      fields: [
        ['c1', 'Votre prénom', 'text', 'Maëlle'],
        ['c2', 'Nombre de sacs', 'number', 3],
        ['c3', 'Trouvé', 'choices', ['Verre', 'Plastique']],
      ],
    }),
  },
  {
    name: 'pages of blocks with element lists',
    ...json({
      id: 'p-1',
      pages: [
        { title: 'You', elements: [{ name: 'who', title: 'Your name', answer: 'Odile Krantz' }] },
        {
          title: 'The hide',
          elements: [
            { name: 'door', title: 'Door closes?', answer: true },
            { name: 'birds', title: 'Birds seen', answer: ['Bittern', 'Reedling'] },
          ],
        },
      ],
    }),
    ...one({
      id: 'p-1',
      fields: [
        ['who', 'Your name', 'name', 'Odile Krantz'],
        ['door', 'Door closes?', 'boolean', true],
        ['birds', 'Birds seen', 'choices', ['Bittern', 'Reedling']],
      ],
    }),
  },
  {
    name: 'urlencoded, wordings as keys',
    type: 'application/x-www-form-urlencoded',
    body: 'Which+path%3F=Towpath&How+muddy+is+it%3F=3&Your+phone=020+7946+0321&_token=abc',
    ...one({
      fields: [
        ['Which path?', 'Which path?', 'text', 'Towpath'],
        ['How muddy is it?', 'How muddy is it?', 'text', '3'],
        ['Your phone', 'Your phone', 'phone', '020 7946 0321'],
      ],
    }),
  },
  {
    name: 'labelled lines with dashes, a two-line value and a signature',
    type: 'text/plain',
    body: 'A new answer has come in.\n\n- Mooring: Berth 7\n- Length: 9.5 m\n- Requests: shore power\n  and water\n- Arrives: 2026-06-20\n\n--\nThe harbour form',
    ...one({
      fields: [
        ['Mooring', 'Mooring', 'text', 'Berth 7'],
        ['Length', 'Length', 'text', '9.5 m'],
        ['Requests', 'Requests', 'multiline', 'shore power\nand water'],
        ['Arrives', 'Arrives', 'date', '2026-06-20'],
      ],
    }),
  },
  {
    name: 'batch at the top of answer lists',
    ...json([
      {
        token: 'ta',
        answers: [
          { field: 'x', question: 'Colour?', value: 'Blue' },
          { field: 'y', question: 'Size?', value: 'L' },
        ],
      },
      {
        token: 'tb',
        answers: [
          { field: 'x', question: 'Colour?', value: 'Red' },
          { field: 'y', question: 'Size?', value: 'S' },
        ],
      },
    ]),
    submissions: [
      {
        id: 'ta',
        fields: [
          ['x', 'Colour?', 'text', 'Blue'],
          ['y', 'Size?', 'text', 'L'],
        ],
      },
      {
        id: 'tb',
        fields: [
          ['x', 'Colour?', 'text', 'Red'],
          ['y', 'Size?', 'text', 'S'],
        ],
      },
    ],
  },
  {
    name: 'XML elements in a batch',
    type: 'text/xml',
    body: '<export><entry id="1"><gate>North</gate><locked>yes</locked></entry><entry id="2"><gate>South</gate><locked>no</locked></entry></export>',
    submissions: [
      {
        id: '1',
        fields: [
          ['gate', 'Gate', 'text', 'North'],
          ['locked', 'Locked', 'text', 'yes'],
        ],
      },
      {
        id: '2',
        fields: [
          ['gate', 'Gate', 'text', 'South'],
          ['locked', 'Locked', 'text', 'no'],
        ],
      },
    ],
  },
  {
    name: 'tab-separated without a header',
    type: 'text/tab-separated-values',
    body: 'G7\t2026-03-01\t0.44\nG8\t2026-03-01\t0.51\n',
    submissions: [
      {
        fields: [
          ['column_1', 'Column 1', 'text', 'G7'],
          ['column_2', 'Column 2', 'date', '2026-03-01'],
          ['column_3', 'Column 3', 'text', '0.44'],
        ],
      },
      {
        fields: [
          ['column_1', 'Column 1', 'text', 'G8'],
          ['column_2', 'Column 2', 'date', '2026-03-01'],
          ['column_3', 'Column 3', 'text', '0.51'],
        ],
      },
    ],
  },
  {
    name: 'uploads with their own objects, none, and an empty list',
    ...json({
      submission_id: 'up-1',
      values: [
        {
          id: 'a',
          label: 'Plan',
          type: 'upload',
          files: [
            { filename: 'plan.pdf', mime: 'application/pdf', bytes: 900, href: 'https://files.example.org/plan.pdf' },
          ],
        },
        { id: 'b', label: 'Photo', type: 'upload', files: [] },
        { id: 'c', label: 'Remark', type: 'text', text: 'none' },
      ],
    }),
    ...one({
      id: 'up-1',
      fields: [['c', 'Remark', 'text', 'none']],
      files: [['a', 'plan.pdf', 'application/pdf', 900, 'https://files.example.org/plan.pdf']],
    }),
  },
  {
    name: 'event around a record, answers as a dictionary with titles',
    ...json({
      event: 'record.created',
      sent_at: '2026-10-10T10:10:10Z',
      record: {
        id: 'rec-9',
        form: { id: 'f-9', name: 'Otter watch' },
        answers: {
          k1: { title: 'Holt', value: 'H3' },
          k2: { title: 'Spraint?', value: 'fresh' },
          k3: { title: 'Cubs', value: 2 },
        },
      },
    }),
    ...one({
      form: ['f-9', 'Otter watch'],
      id: 'rec-9',
      fields: [
        ['k1', 'Holt', 'text', 'H3'],
        ['k2', 'Spraint?', 'text', 'fresh'],
        ['k3', 'Cubs', 'number', 2],
      ],
    }),
  },
  {
    name: 'option objects and an other text beside',
    ...json({
      reply_id: 'ro-1',
      items: [
        { slug: 'weather', ask: 'Weather?', answer: { id: 'w2', label: 'Drizzle' } },
        {
          slug: 'tools',
          ask: 'Tools used',
          answer: [
            { id: 't1', label: 'Rake' },
            { id: 't4', label: 'Other' },
          ],
          other: 'a ladle',
        },
      ],
    }),
    ...one({
      id: 'ro-1',
      fields: [
        ['weather', 'Weather?', 'choice', 'Drizzle'],
        ['tools', 'Tools used', 'choices', ['Rake', 'a ladle']],
      ],
    }),
  },
  {
    name: 'JSON sent as text/plain with a byte-order mark',
    type: 'text/plain',
    body: '\ufeff' + JSON.stringify({ uid: 'bm-1', reading: '7.9', meter: 'M2' }),
    ...one({
      id: 'bm-1',
      fields: [
        ['reading', 'Reading', 'text', '7.9'],
        ['meter', 'Meter', 'text', 'M2'],
      ],
    }),
  },
  {
    name: 'a payload in a form value',
    type: 'application/x-www-form-urlencoded',
    body: `rawRequest=${encodeURIComponent(JSON.stringify({ q3_boat: 'Heron', q4_hours: '3', q5_skills: ['Sail', 'Row'] }))}&formTitle=Boat+hours&submissionID=5581`,
    ...one({
      form: ['Boat hours', 'Boat hours'],
      id: '5581',
      fields: [
        ['q3_boat', 'Q3 boat', 'text', 'Heron'],
        ['q4_hours', 'Q4 hours', 'text', '3'],
        ['q5_skills', 'Q5 skills', 'choices', ['Sail', 'Row']],
      ],
    }),
  },
  {
    name: 'ratings, ranking and a date range',
    ...json({
      id: 'rr-1',
      answers: [
        { id: 1, question: 'Rate the tour', type: 'stars', answer: 5 },
        { id: 2, question: 'Rank the stops', type: 'ranking', answer: ['Mill', 'Weir', 'Lock'] },
        { id: 3, question: 'Come again?', type: 'boolean', answer: false },
      ],
    }),
    ...one({
      id: 'rr-1',
      fields: [
        ['1', 'Rate the tour', 'number', 5],
        ['2', 'Rank the stops', 'choices', ['Mill', 'Weir', 'Lock']],
        ['3', 'Come again?', 'boolean', false],
      ],
    }),
  },
  {
    name: 'multipart with JSON part and a photo',
    type: 'multipart/form-data; boundary=zz',
    body: lines(
      '--zz',
      'Content-Disposition: form-data; name="entry"',
      'Content-Type: application/json',
      '',
      '{"id":"mj-1","stand":"S4","berries":"many"}',
      '--zz',
      'Content-Disposition: form-data; name="photo"; filename="s4.jpg"',
      'Content-Type: image/jpeg',
      '',
      'JJJJ',
      '--zz--',
      '',
    ),
    ...one({
      id: 'mj-1',
      fields: [
        ['stand', 'Stand', 'text', 'S4'],
        ['berries', 'Berries', 'text', 'many'],
      ],
      files: [['photo', 's4.jpg', 'image/jpeg', 4, null]],
    }),
  },
  {
    name: 'German dictionary with question and answer',
    ...json({
      formular: 'Brutkasten',
      eingang: '2026-05-11T05:11:00Z',
      antworten: {
        f1: { frage: 'Welcher Kasten?', antwort: 'K12' },
        f2: { frage: 'Wie viele Eier?', antwort: 5 },
        f3: { frage: 'Bemerkungen', antwort: 'Deckel lose\nbitte richten' },
      },
    }),
    ...one({
      form: ['Brutkasten', 'Brutkasten'],
      fields: [
        ['f1', 'Welcher Kasten?', 'text', 'K12'],
        ['f2', 'Wie viele Eier?', 'number', 5],
        ['f3', 'Bemerkungen', 'multiline', 'Deckel lose\nbitte richten'],
      ],
    }),
  },
  {
    name: 'flat under body, sections inside',
    ...json({
      body: {
        about_you: { full_name: 'Kit Ferris', email: 'kit@example.org' },
        about_site: { site: 'Lock 5', hazards: ['Ice', 'Debris'] },
      },
      timestamp: 1767225600,
    }),
    ...one({
      submittedAt: '1767225600',
      fields: [
        ['full_name', 'Full name', 'name', 'Kit Ferris'],
        ['email', 'Email', 'email', 'kit@example.org'],
        ['site', 'Site', 'text', 'Lock 5'],
        ['hazards', 'Hazards', 'choices', ['Ice', 'Debris']],
      ],
    }),
  },
  {
    name: 'mail with plain lines and an attachment',
    type: 'message/rfc822',
    body: lines(
      'From: Form <noreply@example.org>',
      'To: desk@example.org',
      'Subject: New entry',
      'Message-ID: <m1@example.org>',
      'MIME-Version: 1.0',
      'Content-Type: multipart/mixed; boundary=mm',
      '',
      '--mm',
      'Content-Type: text/plain; charset=utf-8',
      '',
      'Reach: Upper',
      'Invertebrates: 14',
      'Leader: Sunniva Dahl',
      '--mm',
      'Content-Type: text/csv; name=tally.csv',
      'Content-Disposition: attachment; filename=tally.csv',
      '',
      'a,b',
      '--mm--',
    ),
    ...one({
      fields: [
        ['Reach', 'Reach', 'text', 'Upper'],
        ['Invertebrates', 'Invertebrates', 'text', '14'],
        ['Leader', 'Leader', 'text', 'Sunniva Dahl'],
      ],
      files: [['attachments', 'tally.csv', 'text/csv', 3, null]],
    }),
  },
  {
    name: 'yes and no per option, by key',
    ...json({
      sid: 's-5',
      fields: {
        area: 'Reedbed',
        equipment: { scythe: true, rake: false, barrow: true },
        start: '09:30',
      },
    }),
    ...one({
      id: 's-5',
      fields: [
        ['area', 'Area', 'text', 'Reedbed'],
        ['equipment', 'Equipment', 'choices', ['scythe', 'barrow']],
        ['start', 'Start', 'time', '09:30'],
      ],
    }),
  },
  {
    name: 'table rows inside a labelled list, blanks between',
    ...json({
      response_id: 'tb-2',
      response: [
        {
          key: 'crew',
          label: 'Crew list',
          kind: 'grid',
          value: [
            { name: 'Uma', role: 'helm' },
            { name: 'Bo', role: 'bow' },
          ],
        },
        { key: 'blank', label: 'Anything else?', kind: 'text', value: null },
        { key: 'when', label: 'Start time', kind: 'datetime', value: '2026-07-04T09:00:00Z' },
      ],
    }),
    ...one({
      id: 'tb-2',
      fields: [
        [
          'crew',
          'Crew list',
          'table',
          [
            { name: 'Uma', role: 'helm' },
            { name: 'Bo', role: 'bow' },
          ],
        ],
        ['when', 'Start time', 'datetime', '2026-07-04T09:00:00Z'],
      ],
    }),
  },
  {
    name: 'single submission wrapped in a list',
    ...json([{ entry_id: 'wl-1', entry_time: '2026-02-02T02:02:02Z', answers: { pool: 'Long', eels: 'two' } }]),
    ...one({
      id: 'wl-1',
      submittedAt: '2026-02-02T02:02:02Z',
      fields: [
        ['pool', 'Pool', 'text', 'Long'],
        ['eels', 'Eels', 'text', 'two'],
      ],
    }),
  },
  {
    name: 'options defined in the item, ids answered',
    ...json({
      uuid: 'od-1',
      items: [
        {
          id: 'i1',
          title: 'Bank',
          type: 'radio',
          options: [
            { value: '1', text: 'Left' },
            { value: '2', text: 'Right' },
          ],
          answer: '2',
        },
        {
          id: 'i2',
          title: 'Plants',
          type: 'checkbox',
          options: [
            { value: 'a', text: 'Sedge' },
            { value: 'b', text: 'Rush' },
          ],
          answer: ['a', 'b'],
        },
        { id: 'i3', title: 'Notes', type: 'textarea', options: [], answer: 'dry' },
      ],
    }),
    ...one({
      id: 'od-1',
      fields: [
        ['i1', 'Bank', 'choice', 'Right'],
        ['i2', 'Plants', 'choices', ['Sedge', 'Rush']],
        ['i3', 'Notes', 'multiline', 'dry'],
      ],
    }),
  },
];
