import type { PracticeForm, Question } from './form';

/** What its owner may do to a form. */
export const editKinds = {
  reworded: 'change its text',
  replaced: 'change its key',
  retired: 'remove it',
  'option-renamed': 'rename its first option',
  'option-added': 'add an option',
  'option-retired': 'remove its last option',
  added: 'add a question after it',
} as const;
export type EditKind = keyof typeof editKinds;

/** One thing that was done to a form. */
export interface FormEdit {
  question: string;
  what: EditKind;
  /** The new wording, option or question. */
  to: string;
}

/** True for what could be an edit of this form. */
export const isEdit = ({ question, what, to }: FormEdit, form: PracticeForm): boolean =>
  Object.hasOwn(editKinds, what) &&
  form.questions.some(each => each.id === question) &&
  (to !== '' || what === 'replaced' || what === 'retired' || what === 'option-retired');

/** A form with all that was done to it. */
export const edited = (form: PracticeForm, edits: readonly FormEdit[]): PracticeForm =>
  edits.reduce(
    (now, edit) => ({
      ...now,
      questions: now.questions.flatMap(each => (each.id === edit.question ? doneTo(each, edit) : [each])),
    }),
    form,
  );

function doneTo(question: Question, { what, to }: FormEdit): Question[] {
  const { id, options = [] } = question;
  const [first, ...others] = options;
  switch (what) {
    case 'reworded':
      return [{ ...question, ask: to }];
    case 'replaced':
      return [{ ...question, id: `${id}n`, ...(to && { ask: to }) }];
    case 'retired':
      return [];
    case 'option-renamed':
      return first === undefined ? [question] : [{ ...question, options: [to, ...others] }];
    case 'option-added':
      return options.length === 0 ? [question] : [{ ...question, options: [...options, to] }];
    case 'option-retired':
      return options.length < 2 ? [question] : [{ ...question, options: options.slice(0, -1) }];
    case 'added':
      return [question, { id: `${id}x`, ask: to, kind: 'words', required: false }];
  }
}
