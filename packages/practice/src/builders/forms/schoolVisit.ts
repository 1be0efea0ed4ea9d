import type { PracticeForm } from '../form';

export const schoolVisit: PracticeForm = {
  ref: 'school',
  title: 'School visit enquiry',
  intro: 'Alder Basin River Watch. We show your class what lives in the river.',
  send: 'Ask us',
  questions: [
    { id: 'e1', ask: 'School', kind: 'words', required: true },
    { id: 'e2', ask: 'Teacher', kind: 'words', required: true },
    { id: 'e3', ask: 'E-mail', kind: 'mail', required: true },
    {
      id: 'e4',
      ask: 'Year group',
      kind: 'pick',
      required: false,
      options: ['Year 3', 'Year 4', 'Year 5', 'Year 6', 'Older'],
    },
    { id: 'e5', ask: 'How many pupils?', kind: 'figure', required: false },
    { id: 'e6', ask: 'Which day would suit you?', kind: 'words', required: false },
    { id: 'e7', ask: 'What should we know?', kind: 'lines', required: false },
  ],
};
