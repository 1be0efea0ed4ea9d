import { Link } from 'react-router';
import { Sheet } from '../ui';

export function NotHere() {
  return (
    <Sheet title="Page not found.">
      <p className="mt-2 font-serif text-lead text-ink-2">
        It may have been removed, or the address is wrong. Go to the{' '}
        <Link className="act" to="/">
          Desk
        </Link>{' '}
        shows what there is.
      </p>
    </Sheet>
  );
}
