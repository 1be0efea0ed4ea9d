import { count, counted, lasting, Moment, useNow } from '../ui';
import { useDesk } from './desk';
import { useBoundKeys, useLetters } from './keys';
import { useConnection } from './live';

/** The live strip at the foot: what listens, what came last, what waits. */
export function Strip({ onKeys }: { onKeys: () => void }) {
  const { data: desk } = useDesk();
  const connection = useConnection();
  const letters = useLetters();
  const keys = useBoundKeys()
    .filter(each => letters.on || each.key.length > 1)
    .filter(each => each.key !== '?' && each.key !== 'g' && each.key !== 'z' && !each.does.startsWith('go to'))
    .slice(0, 3);
  const now = useNow(5000);
  const dead = (desk?.counts.dead ?? 0) + (desk?.counts.held ?? 0);
  return (
    <footer className="noprint flex h-7 items-center gap-6 overflow-hidden border-t border-rule bg-sunk px-6 max-sm:gap-4 max-sm:px-4 text-small whitespace-nowrap text-ink-2">
      {connection.state === 'lost' ? (
        <span role="status" className="text-crimson">
          <span aria-hidden className="mr-1.5 font-mono font-bold">
            !
          </span>
          No connection for {lasting(now - (connection.since ?? now))}; trying again
        </span>
      ) : (
        <span>
          <span
            aria-hidden
            className={`mr-1.5 inline-block size-[7px] rounded-full ${desk?.listening ? 'bg-verdigris' : 'bg-rule-strong'}`}
          />
          {desk ? `${counted(desk.listening, 'intake')} listening` : 'Reading what is new…'}
        </span>
      )}
      <span>
        {desk?.lastArrival ? (
          <>
            last arrival <Moment at={desk.lastArrival.at} />
            {desk.lastArrival.formName && `, ${desk.lastArrival.formName}`}
          </>
        ) : (
          desk && 'nothing has arrived yet'
        )}
      </span>
      <span className="max-md:hidden">
        {desk
          ? `${counted(desk.counts.waiting + desk.counts.sending, 'delivery', 'deliveries')} waiting, ${count(dead)} held or dead`
          : ''}
      </span>
      <span className="flex-1" />
      {keys.map(({ key, does }) => (
        <span key={key + does} className="max-lg:hidden">
          <kbd>{key}</kbd> {does}
        </span>
      ))}
      <button type="button" onClick={onKeys} className="hover:text-ink">
        {letters.on && <kbd>?</kbd>} all keys
      </button>
    </footer>
  );
}
