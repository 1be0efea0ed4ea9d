import { useEffect, useRef, useState } from 'react';
import { NavLink, Outlet, useNavigate, useNavigation } from 'react-router';
import { clock, ExactTimes, Tips, useExactTimes } from '../ui';
import { usePlaceMemory } from './usePlaceMemory';
import { useStrip } from './useStrip';
import { Keys, useKeys } from './keys';
import { Live } from './live';
import { Palette } from './Palette';
import { places } from './places';
import { Shortcuts } from './Shortcuts';
import { Strip } from './Strip';

/** How long after `g` a place's letter is waited for, in ms. */
const PATIENCE = 1500;

export function Shell() {
  return (
    <ExactTimes>
      <Tips delayDuration={400}>
        <Keys>
          <Live>
            <Frame />
          </Live>
        </Keys>
      </Tips>
    </ExactTimes>
  );
}

function Frame() {
  const [open, setOpen] = useState<'palette' | 'shortcuts' | null>(null);
  const navigate = useNavigate();
  const [going, setGoing] = useState(false);
  const exact = useExactTimes();
  const place = useRef<HTMLDivElement>(null);
  usePlaceMemory(place);
  const isGoing = useNavigation().state !== 'idle';
  useEffect(() => {
    if (!going) return;
    const timer = setTimeout(() => setGoing(false), PATIENCE);
    return () => clearTimeout(timer);
  }, [going]);
  useKeys([
    { key: '?', does: 'Keyboard shortcuts', run: () => setOpen('shortcuts') },
    { key: 'z', does: exact.isExact ? 'show relative times' : 'show exact times', run: exact.toggle },
    { key: 'g', does: `then ${places.map(each => each.letter).join(', ')}: go to a page`, run: () => setGoing(true) },
    ...(going
      ? places.map(({ letter, to, name }) => ({
          key: letter,
          does: `go to ${name}`,
          urgent: true,
          run: () => (setGoing(false), void navigate(to)),
        }))
      : []),
  ]);
  return (
    <div className="grid h-full grid-rows-[auto_minmax(0,1fr)_auto] print:block print:h-auto">
      <a href="#place" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-raised focus:p-2">
        Skip to content
      </a>
      <div>
        <Band onFind={() => setOpen('palette')} />
        <StorageTrouble />
      </div>
      <div
        ref={place}
        id="place"
        tabIndex={-1}
        aria-busy={isGoing}
        className="relative overflow-auto outline-none print:overflow-visible"
      >
        {isGoing && <Going />}
        <Outlet />
      </div>
      <Strip onKeys={() => setOpen('shortcuts')} />
      <Palette open={open === 'palette'} onOpenChange={is => setOpen(is ? 'palette' : null)} />
      <Shortcuts open={open === 'shortcuts'} onOpenChange={is => setOpen(is ? 'shortcuts' : null)} />
    </div>
  );
}

/** Says that another place is being loaded; not at once: what is there in a moment needs no words. */
const Going = () => (
  <p role="status" className="late absolute inset-x-0 top-0 z-20 border-t-2 border-oxide px-6 text-small text-ink-3">
    Loading…
  </p>
);

/** Says so on every place while nothing can be stored. */
function StorageTrouble() {
  const { data: strip } = useStrip();
  if (!strip?.storage) return null;
  return (
    <p role="alert" className="noprint border-b border-crimson px-6 py-2 text-crimson">
      ! {strip.storage.message} Since {clock(strip.storage.since)} intakes answer 503, so form builders retry later, and
      deliveries wait. Work resumes by itself when there is space.
    </p>
  );
}

function Band({ onFind }: { onFind: () => void }) {
  const { data: { changes, troubled } = { changes: 0, troubled: 0 } } = useStrip();
  return (
    <header className="noprint flex min-h-12 flex-wrap items-baseline gap-x-7 border-b border-rule bg-sunk px-6 pt-3.5 max-sm:px-4">
      <NavLink to="/" className="font-serif text-[1.1875rem]/5 font-semibold tracking-tight italic">
        <span className="text-oxide">G</span>rammata
      </NavLink>
      <nav
        aria-label="Main"
        className="flex flex-1 flex-wrap gap-x-5.5 max-sm:order-2 max-sm:basis-full max-sm:gap-x-4"
      >
        {places.map(({ to, name }) => (
          <NavLink
            key={to}
            to={to}
            end={to === '/'}
            className={({ isActive }) =>
              `border-b-2 pb-[11px] max-md:pb-1.5 ${isActive ? 'border-oxide font-semibold text-ink' : 'border-transparent text-ink-2 hover:text-ink'}`
            }
          >
            {name}
            {to === '/changes' && changes > 0 && (
              <span className="ml-1.5 font-mono text-small font-semibold text-ochre" aria-label={`${changes} open`}>
                {changes}
              </span>
            )}
            {to === '/deliveries' && troubled > 0 && (
              <span
                className="ml-1.5 font-mono text-small font-semibold text-crimson"
                aria-label={`${troubled} deliveries need attention`}
              >
                {troubled}
              </span>
            )}
          </NavLink>
        ))}
      </nav>
      <button
        type="button"
        onClick={onFind}
        className="flex w-[210px] items-baseline justify-between border-b border-rule-strong px-0.5 pb-px text-ink-3 hover:text-ink max-md:w-auto max-sm:order-1 max-sm:ml-auto"
      >
        Search or run… <kbd className="max-md:hidden">Ctrl K</kbd>
      </button>
    </header>
  );
}
