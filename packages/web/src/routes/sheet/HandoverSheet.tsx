import { scopesFor } from '@grammata/core/rehearse';
import { sheetCsv, sheetMarkdown, sheetOf, type Sheet, type SheetRow } from '@grammata/core/sheet';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { counted, Empty, Press, When } from '../../ui';
import { callWords } from '../calls/callWords';
import { useWorkbench } from '../workbench';

/** The sheet of one call, and how that call is made. */
interface CallSheet {
  id: string;
  sheet: Sheet;
  how: string;
}

/** A sheet for each call of the route, with the sample at hand as its example. */
function useSheets(): CallSheet[] {
  const { route, editing, operationOf, targetOf, sample, references, labelOf } = useWorkbench(
    'route',
    'editing',
    'call',
    'walk',
    'offers',
  );
  const { draft } = editing;
  return useMemo(
    () =>
      draft.calls.flatMap((call, index): CallSheet[] => {
        const [operation, target] = [operationOf(call), targetOf(call)];
        if (!operation || !target) return [];
        const title = draft.calls.length > 1 ? `${index + 1} ${operation.label}` : draft.name;
        const example = sample && (scopesFor({ call, answers: sample.scope.answers })(sample.submission)[0] ?? null);
        const sheet = sheetOf({
          title,
          form: route.formName,
          target: `${target.name}: ${operation.label}`,
          condition: draft.condition,
          call,
          operation,
          update: target.operations.find(each => each.id === call.find?.update?.operationId) ?? null,
          baseUrl: target.baseUrl,
          context: { timeZone: draft.terms.timeZone },
          questions: references.filter(each => each.isQuestion),
          labelOf,
          example,
        });
        return [{ id: call.id, sheet, how: callWords(call, labelOf).join(' · ') }];
      }),
    [draft, operationOf, targetOf, route, sample, references, labelOf],
  );
}

/** The mapping as a table that people on either side can read, print and take along. */
export function HandoverSheet() {
  const { editing, route, sample } = useWorkbench('route', 'editing', 'walk');
  const { draft } = editing;
  const sheets = useSheets();
  const [first] = sheets;
  if (!first)
    return (
      <div className="px-6">
        <Empty title="Nothing to hand over">The target no longer offers this operation.</Empty>
      </div>
    );
  // What one call leaves out another may use.
  const unused = first.sheet.unused.filter(label => sheets.every(each => each.sheet.unused.includes(label)));
  const isOne = sheets.length === 1;
  return (
    <article
      aria-label="Handover sheet"
      className="max-w-[80rem] min-w-0 px-6 pt-4 pb-12 max-sm:px-4 print:max-w-none print:p-0"
    >
      <div className="noprint flex flex-wrap items-baseline gap-x-4 gap-y-2 pb-4">
        <p className="min-w-60 flex-1 font-serif text-ink-2">
          The mapping in words, for the owners of the form or the target. Examples are from the current sample.
        </p>
        <Press quiet onClick={() => window.print()}>
          Print
        </Press>
        <Save
          name={`${draft.name}.md`}
          type="text/markdown"
          text={() => sheets.map(each => sheetMarkdown(each.sheet)).join('\n')}
        >
          Markdown
        </Save>
        <Save
          name={`${draft.name}.csv`}
          type="text/csv"
          text={() => sheets.map(each => sheetCsv(each.sheet)).join('\r\n')}
        >
          CSV
        </Save>
      </div>
      <header className="border-b border-ink pb-2">
        <h2 className="font-serif text-title font-semibold">{draft.name}</h2>
        <p className="text-ink-2">
          {first.sheet.form} <span aria-hidden>→</span>{' '}
          {isOne ? <Where sheet={first.sheet} how={first.how} /> : `${counted(sheets.length, 'call')}, in this order`}
        </p>
        <p className="font-serif">
          {first.sheet.condition === 'always' ? 'All submissions are sent.' : `Sent if ${first.sheet.condition}.`}
          {sample && (
            <span className="text-ink-2">
              {' '}
              Example of <When at={sample.receivedAt} />.
            </span>
          )}
        </p>
      </header>
      {sheets.map(({ id, sheet, how }) => (
        <section key={id} aria-label={sheet.title} className={isOne ? '' : 'mt-6'}>
          {!isOne && (
            <>
              <h3 className="font-serif text-lead font-semibold">{sheet.title}</h3>
              <p className="text-ink-2">
                <Where sheet={sheet} how={how} />
              </p>
            </>
          )}
          {sheet.rows.length === 0 ? (
            <Empty title="No line has a source yet.">
              <Link className="act" to={`/routes/${route.id}/mapping?call=${id}`}>
                Open the mapping
              </Link>
            </Empty>
          ) : (
            <Table rows={sheet.rows} />
          )}
          <Left unused={isOne ? unused : []} unfilled={sheet.unfilled} />
        </section>
      ))}
      {!isOne && <Left unused={unused} unfilled={[]} />}
    </article>
  );
}

const Where = ({ sheet, how }: { sheet: Sheet; how: string }) => (
  <>
    {sheet.target} · <code className="font-mono text-small [overflow-wrap:anywhere]">{sheet.request}</code>
    {how && ` · ${how}`}
  </>
);

function Table({ rows }: { rows: SheetRow[] }) {
  return (
    <div className="overflow-x-auto print:overflow-visible" tabIndex={0} role="region" aria-label="Lines">
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="border-b border-rule-strong text-small text-ink-2 [&>th]:py-1.5 [&>th]:pr-4 [&>th]:font-normal">
            <th scope="col">No.</th>
            <th scope="col">Question</th>
            <th scope="col">Cleaning</th>
            <th scope="col">Field</th>
            <th scope="col">If blank or invalid</th>
            <th scope="col">Example</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(row => (
            <tr
              key={row.number}
              className="break-inside-avoid border-b border-rule align-baseline [&>td]:py-1.5 [&>td]:pr-4"
            >
              <td className="w-8 font-mono text-fine text-ink-3">{row.number}</td>
              <td className="w-[22%] text-lapis">{row.question}</td>
              <td className="w-[24%] font-serif">{row.cleaning || <span className="text-ink-3">as is</span>}</td>
              <td className="w-[15%]">
                <span className="font-mono text-small font-medium">
                  {row.field}
                  {row.required && (
                    <span className="text-oxide" aria-label="required">
                      *
                    </span>
                  )}
                </span>
                <span className="block text-small text-ink-3">{row.label || row.type}</span>
              </td>
              <td className="w-[13%] text-small text-ink-2">
                {row.otherwise.split('; ').map(each => (
                  <span key={each} className="block">
                    {each}
                  </span>
                ))}
              </td>
              <td className="font-mono text-small [overflow-wrap:anywhere]">
                {row.answer !== row.value && <span className="block text-ink-3">{row.answer || '–'}</span>}
                <span className={row.value.startsWith('! ') ? 'text-crimson' : ''}>{row.value || '–'}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What no line draws on, and what no line fills. */
const Left = ({ unused, unfilled }: Pick<Sheet, 'unused' | 'unfilled'>) => (
  <dl className="mt-4 grid grid-cols-[6rem_minmax(0,1fr)] gap-y-1">
    {unused.length > 0 && (
      <>
        <dt className="text-ink-2">Not used</dt>
        <dd>{unused.join(' · ')}</dd>
      </>
    )}
    {unfilled.length > 0 && (
      <>
        <dt className="text-ink-2">Not filled</dt>
        <dd className="font-mono text-small">{unfilled.join(' · ')}</dd>
      </>
    )}
  </dl>
);

/** Saves a text that is made when it is asked for. */
function Save({ name, type, text, children }: { name: string; type: string; text: () => string; children: string }) {
  const save = () => {
    const address = URL.createObjectURL(new Blob([text()], { type: `${type};charset=utf-8` }));
    const link = document.createElement('a');
    link.href = address;
    link.download = name.replace(/[\\/:*?"<>|]+/g, ' ');
    link.click();
    URL.revokeObjectURL(address);
  };
  return (
    <Press quiet onClick={save}>
      {children}
    </Press>
  );
}
