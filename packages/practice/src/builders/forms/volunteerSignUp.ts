import type { PracticeForm } from '../form';

export const interests = ['Water sampling', 'Bank walks', 'School visits', 'Data entry', 'Repairs', 'Fundraising'];

export const volunteerSignUp: PracticeForm = {
  ref: 'vol',
  title: 'Volunteer sign-up',
  intro: 'Alder Basin River Watch. We are glad that you want to help.',
  send: 'Sign up',
  questions: [
    { id: 'v1', ask: 'Full name', kind: 'words', required: true },
    { id: 'v2', ask: 'E-mail', kind: 'mail', required: true },
    { id: 'v3', ask: 'Phone', kind: 'words', required: false },
    { id: 'v4', ask: 'Address', kind: 'lines', required: false, hint: 'street, town, postcode' },
    { id: 'v5', ask: 'What would you like to do?', kind: 'picks', required: false, options: interests },
    { id: 'v6', ask: 'Birthday', kind: 'words', required: false, hint: 'so that we can send a card' },
    { id: 'v7', ask: 'I agree that you keep my details', kind: 'consent', required: true },
  ],
};
