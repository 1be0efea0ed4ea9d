import { useState, type ReactNode } from 'react';
import { Act } from './parts';

/** Asks before something that can't be undone: what is lost, doing it, and leaving it, which has the focus. */
export function Confirm({
  ask,
  deed,
  keep = 'Cancel',
  onDo,
  isBusy = false,
  fault = null,
  children,
}: {
  /** Opens the question. */
  ask: string;
  deed: string;
  keep?: string;
  onDo: () => void;
  isBusy?: boolean;
  /** Why it could not be done. */
  fault?: string | null;
  /** What it does. */
  children: ReactNode;
}) {
  const [asking, setAsking] = useState(false);
  if (!asking)
    return (
      <Act className="removes" onClick={() => setAsking(true)}>
        {ask}
      </Act>
    );
  return (
    <span>
      {fault && (
        <span role="alert" className="mr-3 text-crimson">
          ! {fault}
        </span>
      )}
      {children}{' '}
      <span className="whitespace-nowrap">
        <Act className="removes" onClick={onDo} disabled={isBusy}>
          {deed}
        </Act>{' '}
        <Act autoFocus className="quiet ml-2" onClick={() => setAsking(false)}>
          {keep}
        </Act>
      </span>
    </span>
  );
}
