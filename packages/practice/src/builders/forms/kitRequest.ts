import type { PracticeForm } from '../form';

export const kits = [
  'pH strips (50)',
  'Nitrate test',
  'Thermometer',
  'Sample bottles (12)',
  'Waders, size M',
  'Waders, size L',
];

export const kitRequest: PracticeForm = {
  ref: 'kit',
  title: 'Kit request',
  intro: 'Alder Basin River Watch. What you need for your next round of samples.',
  send: 'Ask for it',
  questions: [
    { id: 'name', ask: 'Your name', kind: 'words', required: true },
    { id: 'email', ask: 'Your e-mail', kind: 'mail', required: true },
    {
      id: 'kits',
      ask: 'Which kits, and how many?',
      kind: 'rows',
      required: false,
      parts: [
        { id: 'kit', ask: 'Kit', options: kits },
        { id: 'quantity', ask: 'Quantity' },
      ],
    },
    {
      id: 'delivery',
      ask: 'Where to?',
      kind: 'place',
      required: false,
      parts: [
        { id: 'street', ask: 'Street' },
        { id: 'town', ask: 'Town' },
        { id: 'postcode', ask: 'Postcode' },
      ],
    },
    { id: 'needed_by', ask: 'Needed by', kind: 'words', required: false, hint: 'a date' },
    { id: 'remarks', ask: 'Remarks', kind: 'lines', required: false },
  ],
};
