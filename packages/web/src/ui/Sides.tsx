import type { ReactNode } from 'react';

/** A row of what is otherwise: where, and what stands there on either side; null for nothing. */
export interface SidesRow {
  key: string;
  where: string;
  title?: string;
  before: ReactNode;
  after: ReactNode;
}

/** What is otherwise, side by side. */
export function Sides({
  heads,
  rows,
  names = 'code',
  values = 'words',
}: {
  heads: [where: string, before: string, after: string];
  rows: readonly SidesRow[];
  /** Whether the places are written as names in code, and the values as they are on the wire. */
  names?: 'code' | 'words';
  values?: 'code' | 'words';
}) {
  const value = values === 'code' ? 'font-mono text-small' : '';
  const [where, older, newer] = heads;
  return (
    <table className="ledger w-full table-fixed border-t border-rule text-left">
      <thead className="text-fine text-ink-3">
        <tr>
          <th className="w-1/4 py-1 pr-3 font-normal">{where}</th>
          <th className="py-1 pr-3 font-normal">{older}</th>
          <th className="py-1 font-normal">{newer}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ key, where: at, title = at, before, after }) => (
          <tr key={key} className="align-baseline">
            <th
              scope="row"
              title={title}
              className={`py-1 pr-3 font-medium [overflow-wrap:anywhere] ${names === 'code' ? 'font-mono text-small' : ''}`}
            >
              {at}
            </th>
            <td className={`py-1 pr-3 text-ink-2 [overflow-wrap:anywhere] ${value}`}>
              {before ?? <i className="font-sans text-ink-3">missing</i>}
            </td>
            <td className={`py-1 [overflow-wrap:anywhere] ${value}`}>
              {after ?? <i className="font-sans text-ink-3">removed</i>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
