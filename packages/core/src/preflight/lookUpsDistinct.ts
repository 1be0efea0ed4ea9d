import { defineCheck, tell } from './check';

/** What records are looked for with tells them apart: samples that look for the same one write into the same record. */
export const lookUpsDistinct = defineCheck({
  id: 'sought',
  look: ({ sought }) =>
    (sought ?? []).flatMap(({ where, samples, same, example, isOverwritten }) =>
      same === 0
        ? []
        : tell(
            `${where}: ${same.toLocaleString('en-GB')} of ${samples.toLocaleString('en-GB')} samples look up the same record as another sample, such as “${example}”.`,
            `${isOverwritten ? 'Each overwrites the one before.' : 'Only the first creates it; the others find it and leave it as it is.'} Look up by a value that differs, unless this is intended.`,
          ),
    ),
});
