import { OVERVIEWED, type FoundOverview } from '@grammata/contract';
import { asText } from '@grammata/core/submission';
import { wordsFor } from '../../../api';
import { Act, counted, Fault, Note } from '../../../ui';
import { otherThanShown, useShownDraft } from '../../draft';
import { useOverview } from '../../queries';
import { useWorkbench } from '../../workbench';

/** What the route would make and change over the newest samples, and what its lines would write over. */
export function Overview() {
  const { route, editing, showSample } = useWorkbench('route', 'editing', 'walk');
  const overview = useOverview(route.id);
  const [done, isOther] = useShownDraft(editing);
  const ask = () => done(revision => overview.mutate({ revision }));
  return (
    <section aria-label="Effect on many samples" className="mt-8">
      <h2 className="border-b border-ink pb-1.5">Effect on many samples</h2>
      <p className="pt-2">
        <Act onClick={() => void ask()} disabled={overview.isPending}>
          {overview.isPending ? 'Looking up…' : `Check the newest ${OVERVIEWED}`}
        </Act>{' '}
        <span className="text-ink-3">Sends look-ups only.</span>
      </p>
      {overview.error && <Fault>{wordsFor(overview.error)}</Fault>}
      {isOther && <Fault>{otherThanShown}</Fault>}
      {overview.data && overview.variables.revision !== route.revision && (
        <p className="pt-2 text-ochre">Before the last edits.</p>
      )}
      {overview.data && <Told overview={overview.data} onSample={showSample} />}
    </section>
  );
}

function Told({ overview, onSample }: { overview: FoundOverview; onSample: (id: string) => void }) {
  const { looked, made, changed, unchanged, left, problems, lines } = overview;
  const parts = [
    made > 0 && `${counted(made, 'record')} to create`,
    changed > 0 && `${counted(changed, 'record')} to change`,
    unchanged > 0 && `${counted(unchanged, 'record')} unchanged`,
    left > 0 && `${left} skipped`,
  ].filter(Boolean);
  return (
    <div className="pt-2" role="status">
      <p className="font-serif">
        {counted(looked, 'sample')} checked{parts.length > 0 ? `: ${parts.join(', ')}.` : '.'}
      </p>
      {problems.map(({ message, samples }) => (
        <Note key={message} tone="trouble">
          {counted(samples, 'sample')}: {message}
        </Note>
      ))}
      {lines.length > 0 && (
        <table className="mt-3 w-full text-left">
          <thead className="text-small text-ink-2">
            <tr className="border-b border-rule">
              <th className="py-1 font-normal">Field</th>
              <th className="py-1 pr-4 font-normal whitespace-nowrap">Overwrites</th>
              <th className="py-1 pr-4 font-normal whitespace-nowrap">Fills blanks</th>
              <th className="py-1 font-normal">Example</th>
            </tr>
          </thead>
          <tbody>
            {lines.map(({ callId, lineId, field, overwrites, fills, examples: [first] }) => (
              <tr key={`${callId} ${lineId}`} className="border-b border-rule align-baseline">
                <td className="py-1.5 pr-4 font-mono text-small font-medium">{field}</td>
                <td className={`py-1.5 pr-4 ${overwrites > 0 ? 'text-ochre' : 'text-ink-3'}`}>{overwrites}</td>
                <td className="py-1.5 pr-4">{fills}</td>
                <td className="py-1.5">
                  {first && (
                    <span className="flex flex-wrap items-baseline gap-x-3">
                      <code className="font-mono text-small text-ink-2 line-through">{asText(first.before)}</code>
                      <code className="font-mono text-small">{asText(first.after)}</code>
                      <Act onClick={() => onSample(first.sampleId)}>show</Act>
                    </span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
