import type { Submission } from '@grammata/core/submission';
import { notFound } from '../problems';
import type { Services } from '../services';

/** A sample of any kind, by its identifier. Throws HttpProblem where there is none. */
export function sampleOf({ store }: Pick<Services, 'store'>, sampleId: string): Submission {
  const data = store.arrivals.submission(sampleId)?.data ?? store.forms.variant(sampleId)?.data;
  if (!data) throw notFound('sample');
  return data;
}
