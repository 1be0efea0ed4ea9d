import type { PracticeForm } from '../form';
import { sites } from './samplingReport';

export const siteAccessLog: PracticeForm = {
  ref: 'access',
  title: 'Site access log',
  intro: 'Alder Basin River Watch. Write down when you go through a gate, and when you leave.',
  send: 'Write it down',
  questions: [
    { id: 'a1', ask: 'Site', kind: 'pick', required: true, options: sites },
    { id: 'a2', ask: 'Who', kind: 'words', required: true },
    { id: 'a3', ask: 'Went in', kind: 'words', required: true, hint: 'hh:mm' },
    { id: 'a4', ask: 'Came out', kind: 'words', required: false, hint: 'hh:mm' },
    { id: 'a5', ask: 'Gate locked again', kind: 'consent', required: false },
    { id: 'a6', ask: 'Remarks', kind: 'lines', required: false },
  ],
};
