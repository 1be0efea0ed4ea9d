import { useId, type ReactNode } from 'react';

/** What a control says of itself. */
export interface ControlTexts {
  label: string;
  hint?: ReactNode;
  /** What is wrong with what it holds; stands in place of the hint. */
  error?: string | null;
  className?: string;
  /** The label is read out only: what stands around the control says the same. */
  isBare?: boolean;
}

/** What a control has to carry so that its label, its hint and its complaint belong to it. */
export interface ControlIds {
  id: string;
  'aria-label'?: string;
  'aria-describedby'?: string;
  'aria-invalid'?: boolean;
}

/** A labelled control with its hint or complaint. */
export function Labelled({
  label,
  hint,
  error,
  isBare = false,
  className = '',
  children,
}: ControlTexts & { children: (ids: ControlIds) => ReactNode }) {
  const id = useId();
  const message = error ?? hint;
  const ids: ControlIds = {
    id,
    ...(isBare && { 'aria-label': label }),
    'aria-describedby': message ? `${id}-said` : undefined,
    'aria-invalid': error ? true : undefined,
  };
  if (isBare && !message && className === '') return children(ids);
  return (
    <div className={className}>
      {!isBare && (
        <label htmlFor={id} className="block text-small text-ink-2">
          {label}
        </label>
      )}
      {children(ids)}
      {message && (
        <div id={`${id}-said`} className={`mt-0.5 text-small ${error ? 'text-crimson' : 'text-ink-3'}`}>
          {error ? `! ${error}` : message}
        </div>
      )}
    </div>
  );
}
