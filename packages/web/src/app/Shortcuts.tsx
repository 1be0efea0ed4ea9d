import { Floating, Tick } from '../ui';
import { useBoundKeys, useLetters } from './keys';

/** What every key does in the place at hand. */
export function Shortcuts({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const keys = useBoundKeys().filter(each => !each.does.startsWith('go to'));
  const letters = useLetters();
  return (
    <Floating open={open} onOpenChange={onOpenChange} title="Keyboard shortcuts">
      <dl className="grid grid-cols-[6rem_1fr] gap-y-1.5 px-5 py-4">
        <dt>
          <kbd>Ctrl K</kbd>
        </dt>
        <dd>search or run anything</dd>
        {keys.map(({ key, does }) => (
          <div
            key={key + does}
            className={`contents ${!letters.on && key.length === 1 ? 'text-ink-3 line-through' : ''}`}
          >
            <dt>
              <kbd>{key === 'ArrowDown' ? '↓' : key === 'ArrowUp' ? '↑' : key}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
        <dt>
          <kbd>Esc</kbd>
        </dt>
        <dd>close what is open</dd>
      </dl>
      <div className="border-t border-rule px-5 py-3">
        <Tick
          label="Single-key shortcuts are on"
          hint="in this browser. Ctrl K always works."
          checked={letters.on}
          onChange={letters.set}
        />
      </div>
    </Floating>
  );
}
