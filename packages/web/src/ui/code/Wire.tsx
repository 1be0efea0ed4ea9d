import { indented, isToBeFilledIn } from '@grammata/core/request';
import { lazy, Suspense, useRef } from 'react';
import { CopyAct } from '../CopyAct';
import { Act } from '../parts';
import type { CodeHandle } from './CodeView';

const CodeView = lazy(() => import('./CodeView'));

/** From that many lines on it is worth to search. */
const MANY = 12;

/** Larger texts are cut: nobody reads them here. */
const MOST_SHOWN = 200_000;

/** A message as it is on the wire; JSON is indented to be read, and copied as it is. Lines before the first blank one are its head. */
export function Wire({
  text,
  label,
  mark = null,
  curl = null,
  isWhole = false,
}: {
  text: string;
  label: string;
  mark?: string | null;
  /** The line for a shell that sends the same. */
  curl?: string | null;
  /** The text is a body alone. */
  isWhole?: boolean;
}) {
  const divide = isWhole ? -1 : text.indexOf('\n\n');
  const head = isWhole ? '' : divide < 0 ? text : text.slice(0, divide);
  const body = isWhole ? text : divide < 0 ? '' : text.slice(divide + 2);
  const shown = indented(body.slice(0, MOST_SHOWN));
  const code = useRef<CodeHandle>(null);
  return (
    <div role="region" aria-label={label} className="min-w-0">
      {head && (
        <pre className="wire max-h-48 overflow-auto text-ink-2" tabIndex={0} aria-label={`${label}: head`}>
          {head}
        </pre>
      )}
      {body && (
        <div className={head ? 'mt-3' : ''}>
          <Suspense fallback={<pre className="wire">{shown}</pre>}>
            <CodeView ref={code} text={shown} label={`${label}: body`} mark={mark} />
          </Suspense>
          {body.length > MOST_SHOWN && <p className="font-serif text-ink-2">… cut here. Copy gives everything.</p>}
        </div>
      )}
      <p className="noprint mt-1.5 flex flex-wrap gap-x-4 text-small">
        <CopyAct text={text} label={`Copy: ${label}`} />
        {curl !== null && (
          <CopyAct text={curl} label={`Copy as a curl command: ${label}`}>
            {isToBeFilledIn(curl) ? 'as a curl command, without secrets and files' : 'as a curl command'}
          </CopyAct>
        )}
        {shown.split('\n', MANY + 1).length > MANY && (
          <Act onClick={() => code.current?.find()} aria-label={`Find in: ${label}`}>
            Find
          </Act>
        )}
      </p>
    </div>
  );
}
