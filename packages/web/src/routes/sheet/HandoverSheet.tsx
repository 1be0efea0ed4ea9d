import { sheetCsv, sheetMarkdown, sheetOf, type Sheet, type SheetRow } from '@grammata/core/sheet';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { Empty, Press, when } from '../../ui';
import type { Workbench } from '../workbench';

/** The mapping as a table that people on either side can read, print and take along. */
export function HandoverSheet({ workbench }: { workbench: Workbench }) {
  const { editing, call, operation, target, route, sample, references, labelOf } = workbench;
  const { draft } = editing;
  const sheet = useMemo(
    () =>
      operation &&
      sheetOf({
        title: draft.name,
        form: route.formName,
        target: `${target?.name ?? ''}: ${operation.label}`,
        condition: draft.condition,
        call,
        operation,
        baseUrl: target?.baseUrl ?? '',
        context: { timeZone: draft.terms.timeZone },
        questions: references.filter(each => each.isQuestion),
        labelOf,
        example: sample?.submission ?? null,
      }),
    [draft, call, operation, target, route, sample, references, labelOf],
  );
  if (!sheet)
    return (
      <div className="px-6">
        <Empty title="Nothing to hand over.">The target does not offer this operation any more.</Empty>
      </div>
    );
  return (
    <article aria-label="Handover sheet" className="max-w-[80rem] px-6 pt-4 pb-12 print:max-w-none print:p-0">
      <div className="noprint flex items-baseline gap-4 pb-4">
        <p className="flex-1 font-serif text-ink-2">
          The mapping in words, for those who look after the form or the target. Examples are the sample at hand.
        </p>
        <Press quiet onClick={() => window.print()}>
          Print
        </Press>
        <Save name={`${draft.name}.md`} type="text/markdown" text={() => sheetMarkdown(sheet)}>
          Markdown
        </Save>
        <Save name={`${draft.name}.csv`} type="text/csv" text={() => sheetCsv(sheet)}>
          CSV
        </Save>
      </div>
      <header className="border-b border-ink pb-2">
        <h2 className="font-serif text-title font-semibold">{sheet.title}</h2>
        <p className="text-ink-2">
          {sheet.form} <span aria-hidden>→</span> {sheet.target} ·{' '}
          <code className="font-mono text-small">{sheet.request}</code>
        </p>
        <p className="font-serif">
          {sheet.condition === 'always' ? 'Every submission goes.' : `Goes when ${sheet.condition}.`}
          {sample && <span className="text-ink-2"> Example of {when(sample.receivedAt)}.</span>}
        </p>
      </header>
      {sheet.rows.length === 0 ? (
        <Empty title="No line is filled yet.">
          <Link className="act" to={`/routes/${route.id}/what`}>
            Fill some
          </Link>
        </Empty>
      ) : (
        <Table rows={sheet.rows} />
      )}
      <Left sheet={sheet} />
    </article>
  );
}

function Table({ rows }: { rows: SheetRow[] }) {
  return (
    <table className="w-full border-collapse text-left">
      <thead>
        <tr className="border-b border-rule-strong text-small text-ink-2 [&>th]:py-1.5 [&>th]:pr-4 [&>th]:font-normal">
          <th scope="col">No.</th>
          <th scope="col">Question</th>
          <th scope="col">Cleaning</th>
          <th scope="col">Field</th>
          <th scope="col">Otherwise</th>
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
            <td className="w-[24%] font-serif">{row.cleaning || <span className="text-ink-3">as it is</span>}</td>
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
  );
}

/** What no line draws on, and what no line fills. */
const Left = ({ sheet }: { sheet: Sheet }) => (
  <dl className="mt-4 grid grid-cols-[6rem_minmax(0,1fr)] gap-y-1">
    {sheet.unused.length > 0 && (
      <>
        <dt className="text-ink-2">Not used</dt>
        <dd>{sheet.unused.join(' · ')}</dd>
      </>
    )}
    {sheet.unfilled.length > 0 && (
      <>
        <dt className="text-ink-2">Not filled</dt>
        <dd className="font-mono text-small">{sheet.unfilled.join(' · ')}</dd>
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
