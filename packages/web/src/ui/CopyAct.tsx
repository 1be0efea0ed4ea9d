import { Check } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Act } from './parts';

/** How long it says that it copied, in ms. */
const SAID = 2500;

/** Copies a text, and says so. */
export function CopyAct({
  text,
  children = 'Copy',
  label,
  className = '',
}: {
  /** The text, or what makes it when it is asked for. */
  text: string | (() => string);
  children?: string;
  /** What is copied, where the words do not say it. */
  label?: string;
  className?: string;
}) {
  const [said, setSaid] = useState<'copied' | 'failed' | null>(null);
  useEffect(() => {
    if (!said) return;
    const timer = setTimeout(() => setSaid(null), SAID);
    return () => clearTimeout(timer);
  }, [said]);
  const copy = () =>
    navigator.clipboard.writeText(typeof text === 'string' ? text : text()).then(
      () => setSaid('copied'),
      () => setSaid('failed'),
    );
  return (
    <>
      <Act className={className} onClick={() => void copy()} aria-label={label}>
        {said === 'copied' ? (
          <>
            <Check aria-hidden className="mr-1 inline size-3" strokeWidth={2.5} />
            Copied
          </>
        ) : said === 'failed' ? (
          'Not allowed here'
        ) : (
          children
        )}
      </Act>
      <span role="status" className="sr-only">
        {said === 'copied' ? `${label ?? 'It'}: copied` : ''}
      </span>
    </>
  );
}
