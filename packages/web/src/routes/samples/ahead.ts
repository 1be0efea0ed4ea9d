import type { SamplePage } from '@grammata/contract';
import { api } from '../../api';
import { FIRST_PAGE } from './shelf';

/** The first samples of the form that the document begins with, asked for before there was anything to show them; taken once. */
let asked: { formId: string; page: Promise<SamplePage> } | null = null;

export const samplePage = (formId: string, query: string) => api<SamplePage>(`/forms/${formId}/columns?${query}`);

/**
 * Asks for the first samples of a form while the program that shows them is loaded. Only as a document begins: what comes meanwhile is
 * told to be missed once its live connection stands, and brought then.
 */
export function askAhead(formId: string): void {
  const page = samplePage(formId, FIRST_PAGE);
  // Who takes it hears of what failed.
  page.catch(() => undefined);
  asked = { formId, page };
}

/** What was asked for ahead, if it was. */
export function takeAhead(formId: string): Promise<SamplePage> | undefined {
  const page = asked?.formId === formId ? asked.page : undefined;
  asked = null;
  return page;
}
