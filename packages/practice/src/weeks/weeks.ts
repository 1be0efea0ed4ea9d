import type { ApiEdit } from '../changing';
import type { FormEdit } from '../builders/edits';
import type { Answers } from '../builders/form';
import type { ColumnEdit } from '../register/edits';

/** What goes wrong in a week, all at once: a form is edited, targets take something else, and answers come. */
export interface Week {
  /** What its button says, and what happens. */
  name: string;
  summary: string;
  form: string;
  edits: FormEdit[];
  /** What is done to the register, and to the roster. */
  columns: ColumnEdit[];
  contacts: ApiEdit[];
  /** Whether the roster takes a new key from then on, and no other. */
  newKey: boolean;
  answers: Answers[];
}

const reports = [
  ['Mira Teal', '9.8 °C', '8.9'],
  ['Oskar Sedge', '10.1 °C', '9.2'],
  ['June Alder', '9.5 °C', '9.0'],
  ['Lio Marsh', '9.9 °C', '8.7'],
];

/** The second answer of Juno Reed finds the contact that the first one made. */
const volunteers: [name: string, mail: string, interests: string[]][] = [
  ['Juno Reed', 'juno.reed', ['Water sampling', 'Bank walks']],
  ['Ivo Sallow', 'ivo.sallow', ['School visits']],
  ['Tess Rushen', 'tess.rushen', ['Water sampling']],
  ['Milo Burnet', 'milo.burnet', ['Data entry', 'Water sampling']],
  ['Juno Reed', 'juno.reed', ['Fundraising']],
];

export const weeks: Record<'bad' | 'worse', Week> = {
  bad: {
    name: 'Play a bad week',
    summary:
      'The sampling report asks for the site under another key and asks something more; the register calls a site otherwise. Then four answers are sent.',
    form: 'sampling-report',
    edits: [
      { question: 's1', what: 'replaced', to: '' },
      { question: 's5', what: 'added', to: 'Dissolved oxygen (mg/l)' },
    ],
    columns: [{ table: 'samples', column: 'site', what: 'option-renamed', to: 'Withy Bridge, upper (AB-07)' }],
    contacts: [],
    newKey: false,
    answers: reports.map(([name, temperature, oxygen], at) => ({
      s1n: 'Withy Bridge (AB-07)',
      s2: `2${at}/11/2026 09:4${at}`,
      s3: temperature!,
      s5x: oxygen!,
      s6: ['Foam'],
      s8: name!,
      s9: `${name!.toLowerCase().replace(' ', '.')}@example.org`,
    })),
  },
  worse: {
    name: 'Play a worse week',
    summary:
      'The volunteer sign-up words two questions differently, one of which a filter asks for; the roster moves its contacts to another path, renames a field and an option, and rejects its old key. Then five answers are sent, two of them by one person.',
    form: 'volunteer-sign-up',
    edits: [
      { question: 'v1', what: 'reworded', to: 'Your full name' },
      { question: 'v7', what: 'reworded', to: 'You may keep my details' },
    ],
    columns: [],
    contacts: [
      { field: 'phone', what: 'moved', to: '/people' },
      { field: 'phone', what: 'renamed', to: 'telephone' },
      { field: 'interests', what: 'option-renamed', to: 'Sampling of water' },
    ],
    newKey: true,
    answers: volunteers.map(([name, mail, interests], at) => ({
      v1: name,
      v2: `${mail}@example.org`,
      v3: `020 7946 06${10 + at}`,
      v4: `${at + 2} Mill Lane, Alderford, AF1 ${at + 1}QX`,
      v5: interests,
      v7: true,
    })),
  },
};
