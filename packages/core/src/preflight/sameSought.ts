import { defineCheck, tell } from './check';

/** What records are looked for with tells them apart: samples that look for the same one write into the same record. */
export const sameSought = defineCheck({
  id: 'sought',
  look: ({ sought }) =>
    (sought ?? []).flatMap(({ where, samples, same, example }) =>
      same === 0
        ? []
        : tell(
            `${where}: ${same.toLocaleString('en-GB')} of ${samples.toLocaleString('en-GB')} samples look for a record that another looks for too, such as “${example}”.`,
            'Each is written over the one before. Look for something that tells them apart, unless that is meant.',
          ),
    ),
});
