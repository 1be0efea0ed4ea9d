/** The names of everything that can be gone to. */
export interface ThingsView {
  intakes: { id: string; name: string }[];
  forms: { id: string; name: string; ownName: string | null; intakeName: string }[];
  routes: { id: string; name: string }[];
  targets: { id: string; name: string }[];
}

/** What was found by words: questions of forms, and submissions. */
export interface FindView {
  questions: { formId: string; formName: string; key: string; label: string }[];
  submissions: FoundView[];
}

/** A submission that was found by what was said in it. */
export interface FoundView {
  id: string;
  arrivalId: string;
  formName: string;
  about: string;
  /** ISO 8601. */
  receivedAt: string;
}
