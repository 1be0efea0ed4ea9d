import { callName } from '@grammata/core/route';
import type { Outcome } from '@grammata/core/request';
import { asText, isBlank } from '@grammata/core/submission';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  useReactTable,
  type Cell,
  type Header,
  type VisibilityState,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useView } from '../../address';
import { useKeys } from '../../app/keys';
import { Choices, Empty, useRowFocus, When } from '../../ui';
import { useWorkbench } from '../workbench';
import { ColumnPick } from './ColumnPick';
import { isAmong, shows, useRows, type Row, type Shown } from './useRows';

const ROW = 30;
/** Widths in px. */
const [NUMBER, RECEIVED, GOES, LINE] = [56, 132, 104, 168];

const column = createColumnHelper<Row>();

/** All recorded samples in one table: what each line gives, fine, blank or in trouble. */
export function RehearsalTable() {
  const { compiled, route, editing, call, operationOf, showCall } = useWorkbench('route', 'editing', 'call');
  const [shown, show] = useView<Shown>('show', shows, 'all');
  const [hidden, setHidden] = useState<VisibilityState>({});
  const scroller = useRef<HTMLDivElement>(null);
  const navigate = useNavigate();
  /** The sample that keys are for: places move as others come. */
  const [atId, setAtId] = useState<string | null>(null);
  const { rows: all, counts } = useRows();
  const rows = useMemo(() => all.filter(row => isAmong(row, shown)), [all, shown]);
  const at = useMemo(() => (atId === null ? -1 : rows.findIndex(row => row.sample.id === atId)), [rows, atId]);
  const setAt = (index: number) => setAtId(rows[index]?.sample.id ?? null);
  const { calls, terms } = editing.draft;
  const lines = compiled?.lines;
  const columns = useMemo(
    () => [
      column.accessor('index', { header: 'No.', size: NUMBER, cell: info => info.getValue() + 1 }),
      column.display({
        id: 'received',
        header: 'Received',
        size: RECEIVED,
        cell: info => <Received row={info.row.original} />,
      }),
      column.display({
        id: 'goes',
        header: calls.length > 1 ? 'All calls' : 'Result',
        size: GOES,
        cell: info => <Goes row={info.row.original} />,
      }),
      ...(lines ?? []).map(({ line }, place) =>
        column.display({ id: line.id, header: line.to, size: LINE, meta: { place } }),
      ),
    ],
    [lines, calls.length],
  );
  const table = useReactTable({
    data: rows,
    columns,
    getCoreRowModel: getCoreRowModel(),
    getRowId: row => row.sample.id,
    state: { columnVisibility: hidden, columnPinning: { left: ['index', 'received', 'goes'] } },
    onColumnVisibilityChange: setHidden,
  });
  const tableRows = table.getRowModel().rows;
  const virtual = useVirtualizer({
    count: tableRows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const addressOf = (id: string) => `/routes/${route.id}/mapping?sample=${id}&call=${call.id}`;
  const open = (id: string) => void navigate(addressOf(id));
  const go = useRowFocus(rows.length, at, setAt, virtual, scroller);
  useKeys([
    { key: 'j', does: 'next sample', run: () => go(1) },
    { key: 'k', does: 'previous sample', run: () => go(-1) },
    { key: 'Enter', does: 'open in Mapping', run: () => rows[at] && open(rows[at].sample.id) },
  ]);
  if (!compiled)
    return (
      <div className="px-6">
        <Empty title="Nothing to rehearse">The target no longer offers this operation.</Empty>
      </div>
    );
  const widths = {
    gridTemplateColumns: table
      .getVisibleLeafColumns()
      .map(each => `${each.getSize()}px`)
      .join(' '),
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col px-6 pb-4">
      {calls.length > 1 && (
        <Choices
          label="Lines of which call"
          className="pt-2.5"
          value={call.id}
          onChange={showCall}
          ways={calls.map((each, index) => ({
            value: each.id,
            label: `${index + 1} ${callName(each, operationOf(each))}`,
          }))}
        />
      )}
      <div className="flex flex-wrap items-baseline justify-between gap-x-6 py-2.5">
        <Choices
          label="Which samples"
          value={shown}
          onChange={next => {
            setAtId(null);
            show(next);
          }}
          ways={(Object.keys(shows) as Shown[]).map(value => ({ value, label: shows[value], count: counts[value] }))}
        />
        <ColumnPick
          columns={table
            .getAllLeafColumns()
            .filter(each => !each.getIsPinned())
            .map(each => ({
              id: each.id,
              name: each.columnDef.header as string,
              isShown: each.getIsVisible(),
              set: is => each.toggleVisibility(is),
            }))}
        />
      </div>
      <div
        ref={scroller}
        role="region"
        aria-label="Rehearsal of all samples"
        tabIndex={0}
        className="max-h-[calc(100vh-14.5rem)] min-h-40 overflow-auto border-t border-rule"
      >
        <div role="table" aria-rowcount={rows.length + 1} className="min-w-max">
          {table.getHeaderGroups().map(group => (
            <div
              key={group.id}
              role="row"
              aria-rowindex={1}
              className="sticky top-0 z-20 grid border-b border-ink bg-paper text-small text-ink-2"
              style={widths}
            >
              {group.headers.map(header => (
                <Head key={header.id} header={header} />
              ))}
            </div>
          ))}
          <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map(({ index, start }) => {
              const row = tableRows[index]!;
              const { sample, isKnown, goes } = row.original;
              const { outcomes } = compiled.plan(sample.scope, { timeZone: terms.timeZone });
              return (
                <div
                  role="row"
                  aria-rowindex={index + 2}
                  key={row.id}
                  data-row={index}
                  onClick={() => open(row.id)}
                  style={{ transform: `translateY(${start}px)`, height: ROW, ...widths }}
                  className={`group absolute grid cursor-pointer items-center border-b border-rule ${index === at ? 'chosen' : 'bg-paper hover:bg-raised'} ${isKnown && !goes ? 'text-ink-2' : ''}`}
                >
                  {row
                    .getVisibleCells()
                    .map(cell =>
                      cell.column.getIsPinned() ? (
                        <Pinned key={cell.id} cell={cell} to={addressOf(row.id)} />
                      ) : (
                        <Given key={cell.id} outcome={outcomes[placeOf(cell)]} />
                      ),
                    )}
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </div>
  );
}

/** Which of the call's lines a column shows. */
const placeOf = (cell: Cell<Row, unknown>) => (cell.column.columnDef.meta as { place: number }).place;

function Head({ header }: { header: Header<Row, unknown> }) {
  const pinned = header.column.getIsPinned();
  return (
    <span
      role="columnheader"
      className={`truncate py-1.5 ${pinned ? 'sticky z-10 bg-paper pr-3' : 'px-2 font-mono font-medium text-ink'} ${header.id === 'index' ? 'text-right' : ''}`}
      style={pinned ? { left: header.column.getStart('left') } : undefined}
    >
      {flexRender(header.column.columnDef.header, header.getContext())}
    </span>
  );
}

/** A cell that stays in sight while the lines are scrolled. */
function Pinned({ cell, to }: { cell: Cell<Row, unknown>; to: string }) {
  const shown = flexRender(cell.column.columnDef.cell, cell.getContext());
  return (
    <span
      role="cell"
      className={`sticky z-10 flex h-full items-center bg-inherit pr-3 text-small whitespace-nowrap ${cell.column.id === 'index' ? 'justify-end font-mono text-fine' : ''}`}
      style={{ left: cell.column.getStart('left') }}
    >
      {cell.column.id === 'index' ? (
        <Link to={to} onClick={event => event.stopPropagation()} className="text-ink-2 hover:underline">
          {shown}
        </Link>
      ) : (
        shown
      )}
    </span>
  );
}

function Received({ row: { sample } }: { row: Row }) {
  return sample.isVariant ? (
    <span className="truncate">{sample.name ?? 'variant'}</span>
  ) : (
    <When at={sample.receivedAt} />
  );
}

function Goes({ row: { isKnown, goes, sends } }: { row: Row }) {
  if (!isKnown) return <span className="text-ink-3">…</span>;
  if (!goes) return 'left out';
  return sends ? (
    <span className="text-verdigris">✓ can be sent</span>
  ) : (
    <span className="text-crimson">! can’t be sent</span>
  );
}

/** What a line gives for the sample. */
function Given({ outcome }: { outcome: Outcome | undefined }) {
  const isTrouble = outcome?.state === 'trouble';
  const text = isTrouble
    ? `! ${outcome.problem?.message ?? ''}`
    : isBlank(outcome?.value)
      ? '–'
      : asText(outcome?.value ?? null);
  return (
    <span
      role="cell"
      title={text}
      className={`truncate px-2 font-mono text-small ${isTrouble ? 'bg-crimson-wash leading-[29px] text-crimson' : text === '–' ? 'text-ink-3' : ''}`}
    >
      {text}
    </span>
  );
}
