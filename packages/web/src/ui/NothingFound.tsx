import { useCommandState } from 'cmdk';

/** Says that nothing is found, below the list: a list holds what can be taken, and nothing else. */
export function NothingFound({ children, className = 'px-3 py-1.5' }: { children: string; className?: string }) {
  const isEmpty = useCommandState(state => state.filtered.count === 0);
  return (
    <p role="status" className={isEmpty ? `text-ink-2 ${className}` : 'sr-only'}>
      {isEmpty ? children : ''}
    </p>
  );
}
