import type { PracticeForm } from '../form';

export const sites = [
  'Withy Bridge (AB-07)',
  'Otter Weir (AB-02)',
  'Mill Race (AB-11)',
  'Fernhollow Ford (AB-04)',
  'Lower Alder Lock (AB-15)',
  'Heron Steps (AB-09)',
  'Quarry Outfall (AB-18)',
  'Basin Head (AB-01)',
];

export const signs = ['None', 'Foam', 'Oil sheen', 'Algae bloom', 'Dead fish', 'Litter', 'Discoloured water'];

/** The form that Alder Basin River Watch's volunteers fill in at the river. */
export const samplingReport: PracticeForm = {
  ref: 'smp',
  title: 'Sampling report',
  send: 'Send report',
  intro: 'Alder Basin River Watch. One report for each visit to a site, please.',
  questions: [
    { id: 's1', ask: 'Which site?', kind: 'pick', required: true, options: sites },
    { id: 's2', ask: 'When did you sample?', kind: 'moment', required: true, hint: 'day/month/year and time' },
    { id: 's3', ask: 'Water temperature', kind: 'words', required: false, hint: 'in °C' },
    { id: 's4', ask: 'pH, from the strip', kind: 'words', required: false },
    { id: 's5', ask: 'Nitrate (mg/l)', kind: 'words', required: false },
    { id: 's6', ask: 'What signs did you see?', kind: 'picks', required: false, options: signs },
    { id: 's7', ask: 'Anything else we should know?', kind: 'lines', required: false },
    { id: 's8', ask: 'Your name', kind: 'words', required: true },
    { id: 's9', ask: 'Your e-mail', kind: 'mail', required: true },
    { id: 's10', ask: 'Phone, if we may call', kind: 'words', required: false },
    { id: 's11', ask: 'How many people were with you?', kind: 'figure', required: false },
    { id: 's12', ask: 'Photos', kind: 'docs', required: false, hint: 'up to ten' },
    { id: 's13', ask: 'Send me the yearly report', kind: 'consent', required: false },
  ],
};
