import { useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../../api';
import { useKeys } from '../../app/keys';
import { Reading } from '../../app/Read';
import { Act, ofNewest, counted, Empty, Fault, Sheet, useSettled } from '../../ui';
import { WorkStrip } from '../../work';
import { none, type Chosen } from './choosing';
import { Filters } from './Filters';
import { Resend } from './Resend';
import { Rows } from './Rows';
import { useDeliveries } from './useDeliveries';
import { asked, useFilter } from './useFilter';

/** ms after the last letter before the server is asked. */
const PAUSE = 200;

/** What was sent, waits, or could not be sent: filtered, searched, and sent again. */
export function DeliveryList() {
  const { filter, set, clear, isAny } = useFilter();
  const search = useSettled(filter.search, PAUSE);
  const wanted = useMemo(() => asked({ ...filter, search }), [filter, search]);
  const [isHeld, hold] = useState(false);
  const list = useDeliveries(wanted, isHeld);
  const [chosen, setChosen] = useState<Chosen>(none);
  // What was chosen among others is not meant any more.
  const [chosenIn, setChosenIn] = useState(wanted);
  if (chosenIn !== wanted) {
    setChosenIn(wanted);
    setChosen(none);
  }
  const box = useRef<HTMLInputElement>(null);
  useKeys([{ key: '/', does: 'search', run: () => box.current?.focus() }]);
  const { page, rows } = list;
  const { total = 0, newer = 0, searched = null } = page ?? {};
  return (
    <Sheet
      title="Deliveries"
      aside={
        <Resend
          listed={rows.length}
          total={total}
          asOf={list.asOf}
          isWhole={searched === null}
          chosen={chosen}
          filter={filter}
          onChoose={setChosen}
        />
      }
    >
      <Filters filter={filter} set={set} counts={page?.counts ?? null} searchRef={box} />
      <WorkStrip about={{}} kinds={['send', 'resend']} />
      {list.error && <Fault again={list.again}>{wordsFor(list.error)}</Fault>}
      {searched !== null && (
        <p role="status" className="py-1.5 text-ink-2">
          {counted(total, 'delivery', 'deliveries')}
          {ofNewest(searched)}. Add words to find older ones.
        </p>
      )}
      {newer > 0 && (
        <p role="status" className="border-b border-rule py-1.5 text-ink-2">
          {counted(newer, 'new delivery', 'new deliveries')}.{' '}
          <Act onClick={list.showNewer}>Show {newer === 1 ? 'it' : 'them'}</Act>
        </p>
      )}
      {!page && !list.error && <Reading />}
      {page &&
        total === 0 &&
        (isAny ? (
          <Empty title="No matches">
            {searched === null ? 'No delivery matches these filters.' : 'Older deliveries were not searched.'}{' '}
            <Act onClick={clear}>Clear filters</Act>
          </Empty>
        ) : (
          <Empty title="No deliveries yet">
            A live route delivers each submission it receives.{' '}
            <Link className="act" to="/routes">
              Open routes
            </Link>
          </Empty>
        ))}
      <Rows
        key={JSON.stringify(wanted)}
        total={total}
        rowAt={list.rowAt}
        rows={rows}
        between={list.between}
        see={list.see}
        chosen={chosen}
        onChoose={setChosen}
        onHold={hold}
      />
    </Sheet>
  );
}
