import type { FormSchema } from '@grammata/core/schema';
import { isGone } from '@grammata/core/match';
import type { Sample } from '@grammata/core/rehearse';
import { useMemo } from 'react';
import type { Shelved } from '../samples';

/** How many samples are looked at for what could fill a line. */
const MOST_LOOKED = 300;

/** What came, variants apart: all that is here, the newest of it, and the questions that these do not ask any more. */
export function useRecorded(schema: FormSchema, shelved: readonly Shelved[]) {
  const recorded = useMemo(() => shelved.filter(each => !each.isVariant), [shelved]);
  const newest = useMemo(
    () =>
      recorded.slice(0, MOST_LOOKED).map(({ id, receivedAt, submission }): Sample => ({ id, receivedAt, submission })),
    [recorded],
  );
  const gone = useMemo(() => {
    const times = newest.map(each => Date.parse(each.receivedAt));
    return new Set(schema.fields.filter(each => isGone(each, times)).map(each => each.key));
  }, [schema, newest]);
  return { recorded, newest, gone };
}
