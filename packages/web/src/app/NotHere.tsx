import { Link } from 'react-router';
import { Sheet } from '../ui';

export function NotHere() {
  return (
    <Sheet title="There is nothing at this address.">
      <p className="mt-2 font-serif text-lead text-ink-2">
        It may have been removed, or the address is mistyped. The{' '}
        <Link className="act" to="/">
          Desk
        </Link>{' '}
        shows what there is.
      </p>
    </Sheet>
  );
}
