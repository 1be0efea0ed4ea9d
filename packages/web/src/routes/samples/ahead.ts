import type { SamplePage } from '@grammata/contract';
import { api } from '../../api';
import { FIRST_PAGE } from './shelf';

/** First pages that were asked for before there was anything to show them, by their forms; each is taken once. */
const asked = new Map<string, Promise<SamplePage>>();

export const samplePage = (formId: string, query: string) => api<SamplePage>(`/forms/${formId}/columns?${query}`);

/** Asks for the first samples of a form ahead of the page that shows them. */
export function askAhead(formId: string): void {
  const page = samplePage(formId, FIRST_PAGE);
  // Who takes it hears of what failed.
  page.catch(() => undefined);
  asked.clear();
  asked.set(formId, page);
}

/** What was asked for ahead, if it was. */
export function takeAhead(formId: string): Promise<SamplePage> | undefined {
  const page = asked.get(formId);
  asked.delete(formId);
  return page;
}
