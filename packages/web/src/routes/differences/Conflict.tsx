import { Press } from '../../ui';
import { useWorkbench } from '../workbench';
import { Differences } from './Differences';

/** Two people edited the draft at once: what differs, and the choice. Neither is lost. */
export function Conflict() {
  const { editing } = useWorkbench('editing');
  if (!editing.theirs) return null;
  return (
    <section aria-label="Edited elsewhere" role="alert" className="mt-3 border border-crimson bg-raised px-5 py-4">
      <h2>This route was edited elsewhere</h2>
      <p className="mt-1 font-serif text-ink-2">
        Choose which edits to keep. Undo brings the others back. Until then your edits stay in this browser.
      </p>
      <div className="mt-3 max-h-72 overflow-auto" tabIndex={0} role="region" aria-label="Differences">
        <Differences before={editing.theirs.draft} after={editing.draft} names={['Saved version', 'Your edits']} />
      </div>
      <div className="mt-3 flex items-baseline gap-4">
        <Press onClick={() => void editing.keepMine()}>Keep your edits</Press>
        <Press quiet onClick={editing.takeTheirs}>
          Use saved version
        </Press>
      </div>
    </section>
  );
}
