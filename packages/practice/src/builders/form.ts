/** The kinds of question a practice form can ask. */
export type QuestionKind = 'pick' | 'picks' | 'words' | 'lines' | 'moment' | 'mail' | 'figure' | 'consent' | 'docs';

export interface Question {
  id: string;
  ask: string;
  kind: QuestionKind;
  required: boolean;
  options?: string[];
  hint?: string;
}

export interface PracticeForm {
  ref: string;
  title: string;
  intro: string;
  questions: Question[];
}

export interface Doc {
  name: string;
  href: string;
  bytes: number;
  mime: string;
}

/** A person's answers by question; a question that was passed over is missing. */
export type Answers = Record<string, string | string[] | number | boolean | Doc[]>;

/** One filled-in form. */
export interface Filled {
  entry: string;
  /** ISO 8601. */
  sent: string;
  answers: Answers;
  client: { addr: string; agent: string };
}

/** What became of one sent answer. */
export interface SentRecord {
  at: string;
  entry: string;
  to: string;
  status: number | null;
  message: string;
}
