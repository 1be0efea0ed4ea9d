/** The kinds of question a practice form can ask. */
export type QuestionKind =
  'pick' | 'picks' | 'words' | 'lines' | 'moment' | 'mail' | 'figure' | 'consent' | 'docs' | 'rows' | 'place';

export interface Question {
  id: string;
  ask: string;
  kind: QuestionKind;
  required: boolean;
  options?: string[];
  hint?: string;
  /** Of a table question: its columns. Of a place: its parts. */
  parts?: { id: string; ask: string; options?: string[] }[];
}

export interface PracticeForm {
  ref: string;
  title: string;
  intro: string;
  questions: Question[];
  /** What the button says. */
  send: string;
}

export interface Doc {
  name: string;
  href: string;
  bytes: number;
  mime: string;
  /** Where its content lies, for builders that send it along. */
  content?: Buffer;
}

export type Parts = Record<string, string>;
export type Answer = string | string[] | number | boolean | Doc[] | Parts | Parts[];

/** A person's answers by question; a question that was passed over is missing. */
export type Answers = Record<string, Answer>;

/** One filled-in form. */
export interface Filled {
  entry: string;
  /** ISO 8601. */
  sent: string;
  answers: Answers;
  client: { addr: string; agent: string };
}

export const isDocs = (question: Question, answer: Answer | undefined): answer is Doc[] =>
  question.kind === 'docs' && Array.isArray(answer);

/** What became of one sent answer. */
export interface SentRecord {
  at: string;
  entry: string;
  to: string;
  status: number | null;
  message: string;
  /** Times it was sent, retries counted. */
  tries: number;
}
