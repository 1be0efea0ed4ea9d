import type { PracticeForm } from '../form';
import { sites } from './samplingReport';

export const severities = ['Low', 'Worrying', 'Severe'];

export const incidentAlert: PracticeForm = {
  ref: 'alert',
  title: 'Incident alert',
  intro: 'Alder Basin River Watch. For what can’t wait for the next report.',
  send: 'Raise the alert',
  questions: [
    { id: 'severity', ask: 'How bad is it?', kind: 'pick', required: true, options: severities },
    { id: 'what', ask: 'What happened?', kind: 'lines', required: true },
    { id: 'where', ask: 'Where?', kind: 'pick', required: true, options: [...sites, 'Somewhere else'] },
    { id: 'reporter', ask: 'Your name', kind: 'words', required: true },
    { id: 'callback', ask: 'Phone', kind: 'words', required: false },
    { id: 'evidence', ask: 'Photos or video', kind: 'docs', required: false },
  ],
};
