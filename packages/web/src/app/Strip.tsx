import { counted, lasting, Moment, useNow } from '../ui';
import { useStrip } from './useStrip';
import { useBoundKeys, useLetters } from './keys';
import { useConnection } from './live';

/** The live strip at the foot: what listens, what came last, what waits. */
export function Strip({ onKeys }: { onKeys: () => void }) {
  const { data: strip } = useStrip();
  const connection = useConnection();
  const letters = useLetters();
  const keys = useBoundKeys()
    .filter(each => letters.on || each.key.length > 1)
    .filter(each => each.key !== '?' && each.key !== 'g' && each.key !== 'z' && !each.does.startsWith('go to'))
    .slice(0, 3);
  const now = useNow(5000);
  return (
    <footer className="noprint flex h-7 items-center gap-6 overflow-hidden border-t border-rule bg-sunk px-6 max-sm:gap-4 max-sm:px-4 text-small whitespace-nowrap text-ink-2">
      {connection.state === 'lost' ? (
        <span role="status" className="text-crimson">
          <span aria-hidden className="mr-1.5 font-mono font-bold">
            !
          </span>
          No connection for {lasting(now - (connection.since ?? now))}; reconnecting
        </span>
      ) : (
        <span>
          <span
            aria-hidden
            className={`mr-1.5 inline-block size-[7px] rounded-full ${strip?.listening ? 'bg-verdigris' : 'bg-rule-strong'}`}
          />
          {strip ? `${counted(strip.listening, 'intake')} listening` : 'Loading…'}
        </span>
      )}
      <span>
        {strip?.lastArrival ? (
          <>
            last message <Moment at={strip.lastArrival.at} />
            {strip.lastArrival.formName && `, ${strip.lastArrival.formName}`}
          </>
        ) : (
          strip && 'no message yet'
        )}
      </span>
      {strip && strip.waiting > 0 && (
        <span className="max-md:hidden">{counted(strip.waiting, 'delivery', 'deliveries')} waiting</span>
      )}
      {strip && strip.troubled > 0 && (
        <span className="text-crimson max-md:hidden">
          ! {counted(strip.troubled, 'delivery needs', 'deliveries need')} attention
        </span>
      )}
      <span className="flex-1" />
      {keys.map(({ key, does }) => (
        <span key={key + does} className="max-xl:hidden">
          <kbd>{key}</kbd> {does}
        </span>
      ))}
      <button type="button" onClick={onKeys} className="hover:text-ink">
        {letters.on && <kbd>?</kbd>} Keyboard shortcuts
      </button>
    </footer>
  );
}
