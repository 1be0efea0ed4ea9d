import { useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { wordsFor } from '../../api';
import { useKeys } from '../../app/keys';
import { Reading } from '../../app/Read';
import { useNextPage } from '../../lists';
import { Act, ofNewest, counted, Empty, Fault, Sheet, useSettled } from '../../ui';
import { WorkStrip } from '../../work';
import { useDeliveries } from '../queries';
import { none, type Chosen } from './choosing';
import { Filters } from './Filters';
import { Resend } from './Resend';
import { Rows } from './Rows';
import { asked, useFilter } from './useFilter';

/** ms after the last letter before the server is asked. */
const PAUSE = 200;

/** What was sent, waits, or could not be sent: filtered, searched, and sent again. */
export function DeliveryList() {
  const { filter, set, clear, isAny } = useFilter();
  const search = useSettled(filter.search, PAUSE);
  const wanted = useMemo(() => asked({ ...filter, search }), [filter, search]);
  const list = useDeliveries(wanted);
  const [chosen, setChosen] = useState<Chosen>(none);
  // What was chosen among others is not meant any more.
  const [chosenIn, setChosenIn] = useState(wanted);
  if (chosenIn !== wanted) {
    setChosenIn(wanted);
    setChosen(none);
  }
  const { bring } = useNextPage(JSON.stringify(wanted), list);
  const box = useRef<HTMLInputElement>(null);
  useKeys([{ key: '/', does: 'search', run: () => box.current?.focus() }]);
  const first = list.data?.pages[0];
  const rows = useMemo(() => list.data?.pages.flatMap(page => page.deliveries) ?? [], [list.data]);
  const { total = 0, newest = null, searched = null } = first ?? {};
  return (
    <Sheet
      title="Deliveries"
      aside={
        <Resend
          rows={rows}
          total={total}
          newest={newest}
          isWhole={searched === null}
          chosen={chosen}
          filter={filter}
          onChoose={setChosen}
        />
      }
    >
      <Filters filter={filter} set={set} counts={first?.counts ?? null} searchRef={box} />
      <WorkStrip about={{}} kinds={['send', 'resend']} />
      {list.error && <Fault again={() => void list.refetch()}>{wordsFor(list.error)}</Fault>}
      {searched !== null && (
        <p role="status" className="py-1.5 text-ink-2">
          {counted(total, 'delivery', 'deliveries')}
          {ofNewest(searched)}. More words find older ones.
        </p>
      )}
      {list.isPending && <Reading />}
      {first &&
        rows.length === 0 &&
        (isAny ? (
          <Empty title="Nothing matches.">
            {searched === null ? 'No delivery is like that.' : 'Older ones were not looked through.'}{' '}
            <Act onClick={clear}>Show all</Act>
          </Empty>
        ) : (
          <Empty title="Nothing was sent yet.">
            A live route delivers each submission that arrives.{' '}
            <Link className="act" to="/routes">
              Go to the routes
            </Link>
          </Empty>
        ))}
      <Rows rows={rows} total={total} more={() => bring?.()} chosen={chosen} onChoose={setChosen} />
    </Sheet>
  );
}
