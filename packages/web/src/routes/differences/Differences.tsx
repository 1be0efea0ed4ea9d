import { callName, differencesOf, type RouteDefinition } from '@grammata/core/route';
import { useMemo } from 'react';
import type { Workbench } from '../workbench';
import { differenceWords } from './words';

/** In what two definitions differ, side by side. */
export function Differences({
  workbench: { labelOf, operationOf },
  before,
  after,
  names: [older, newer],
}: {
  workbench: Workbench;
  before: RouteDefinition;
  after: RouteDefinition;
  /** What the two are called. */
  names: [before: string, after: string];
}) {
  const told = useMemo(
    () =>
      differencesOf(before, after).map(each =>
        differenceWords(each, { labelOf, callOf: call => callName(call, operationOf(call)) }),
      ),
    [before, after, labelOf, operationOf],
  );
  if (told.length === 0) return <p className="py-1.5 font-serif text-ink-2">Nothing: both do the same.</p>;
  return (
    <table className="ledger w-full table-fixed border-t border-rule text-left">
      <thead className="text-fine text-ink-3">
        <tr>
          <th className="w-44 py-1 pr-3 font-normal">Where</th>
          <th className="py-1 pr-3 font-normal">{older}</th>
          <th className="py-1 font-normal">{newer}</th>
        </tr>
      </thead>
      <tbody>
        {told.map(({ key, where, before: was, after: is }) => (
          <tr key={key} className="align-baseline">
            <th scope="row" className="truncate py-1 pr-3 font-mono text-small font-medium" title={where}>
              {where}
            </th>
            <td className="py-1 pr-3 break-words text-ink-2">{was ?? <i className="text-ink-3">not there</i>}</td>
            <td className="py-1 break-words">{is ?? <i className="text-ink-3">not there any more</i>}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
