import { numberOf, type Change, type Done, type Comparison } from '@grammata/core/perform';
import { asText, isBlank, type Json } from '@grammata/core/submission';

const shown = (value: Json | undefined) => (isBlank(value) ? '–' : asText(value));

/** What an update changes of a record, field by field. */
export function Changes({ changes }: { changes: Change[] }) {
  return (
    <table className="ledger mt-2 w-full table-fixed border-t border-rule text-left">
      <thead className="text-fine text-ink-3">
        <tr>
          <th className="w-40 py-1 font-normal">Field</th>
          <th className="py-1 font-normal">Now</th>
          <th className="py-1 font-normal">New</th>
        </tr>
      </thead>
      <tbody>
        {changes.map(({ field, before, after }) => (
          <tr key={field} className="align-baseline">
            <td className="truncate py-1 pr-3 font-mono text-small font-medium">{field}</td>
            <td className="py-1 pr-3 font-mono text-small break-words text-ink-2">
              {isBlank(before) ? '–' : <del className="decoration-ink-3">{shown(before)}</del>}
            </td>
            <td className="py-1 font-mono text-small break-words">{shown(after)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const verdicts: Record<Comparison['verdict'], { words: string; colour: string; mark: string }> = {
  same: { words: 'same', colour: 'text-verdigris', mark: '✓' },
  reformatted: { words: 'different notation', colour: 'text-ochre', mark: '△' },
  shortened: { words: 'cut off', colour: 'text-crimson', mark: '!' },
  rounded: { words: 'rounded', colour: 'text-ochre', mark: '△' },
  lost: { words: 'lost', colour: 'text-crimson', mark: '!' },
  other: { words: 'different', colour: 'text-crimson', mark: '!' },
};

/** What was sent against what the target stored. What is same is only counted. `of` tells several apart. */
export function ReadBack({ compared, of = '' }: { compared: Comparison[]; of?: string }) {
  const [same, changed] = [
    compared.filter(each => each.verdict === 'same'),
    compared.filter(each => each.verdict !== 'same'),
  ];
  return (
    <section aria-label={`Read back${of && `, ${of}`}`} className="mt-3">
      <p className="font-serif">
        Checked: {same.length} of {compared.length} values are stored as sent.
      </p>
      {changed.length > 0 && (
        <table className="ledger mt-2 w-full table-fixed border-t border-rule text-left">
          <thead className="text-fine text-ink-3">
            <tr>
              <th className="w-40 py-1 font-normal">Field</th>
              <th className="w-36 py-1 font-normal">In the target</th>
              <th className="py-1 font-normal">Sent</th>
              <th className="py-1 font-normal">Stored</th>
            </tr>
          </thead>
          <tbody>
            {changed.map(({ field, verdict, sent, stored }) => (
              <tr key={field} className="align-baseline">
                <td className="truncate py-1 pr-3 font-mono text-small font-medium">{field}</td>
                <td className={`py-1 pr-3 ${verdicts[verdict].colour}`}>
                  <span aria-hidden className="mr-1 font-mono">
                    {verdicts[verdict].mark}
                  </span>
                  {verdicts[verdict].words}
                </td>
                <td className="py-1 pr-3 font-mono text-small break-words">{shown(sent)}</td>
                <td className="py-1 font-mono text-small break-words">{shown(stored)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** What became of a call. One that looked for a record first says that there was none. */
/** Which of the items a call was made for, to be put behind its name. */
export const itemWords = (item: string): string => (numberOf(item) === 0 ? '' : `, item ${numberOf(item)}`);

export const doneWords = ({ what, note }: Done, looked: boolean): string =>
  [looked && what === 'created' ? 'No existing record found; created a new one.' : whatWords[what], note]
    .filter(Boolean)
    .join(' ');

const whatWords: Record<Done['what'], string> = {
  created: 'Done.',
  updated: 'Changed an existing record.',
  unchanged: 'No difference, so nothing was sent.',
  left: 'Stopped here, as set.',
  failed: 'Failed and skipped.',
};
