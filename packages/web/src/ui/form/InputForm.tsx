import type { ReactNode } from 'react';
import { FormProvider, type FieldValues } from 'react-hook-form';
import { Act, Fault, Press } from '../parts';
import { ShownContext } from './shown';
import type { Input } from './useInput';

/** A panel to fill in: its fields, what is against them, and what can be done. */
export function InputForm<T extends FieldValues>({
  of,
  label,
  deed,
  onCancel,
  more,
  isBusy = false,
  className = 'mb-4 space-y-4 border-y border-ink bg-raised px-4 py-4',
  children,
}: {
  of: Input<T>;
  label: string;
  /** What sending it does, in words. */
  deed: string;
  onCancel?: () => void;
  /** What else can be done, at the other end of the row. */
  more?: ReactNode;
  isBusy?: boolean;
  className?: string;
  children: ReactNode;
}) {
  return (
    <FormProvider {...of.form}>
      <ShownContext value={of.shown}>
        <form
          noValidate
          aria-label={label}
          className={className}
          onSubmit={event => {
            event.preventDefault();
            of.submit();
          }}
        >
          {of.isTakenUp && (
            <p role="status" className="border-l-2 border-ochre pl-3 font-serif text-ink-2">
              Unsaved changes restored (except secrets). <Act onClick={of.startAnew}>Discard changes</Act>
            </p>
          )}
          {children}
          {of.fault && <Fault>{of.fault}</Fault>}
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
            <Press type="submit" disabled={of.isBusy || isBusy}>
              {deed}
            </Press>
            {onCancel && (
              <Press
                quiet
                onClick={() => {
                  of.discard();
                  onCancel();
                }}
              >
                Cancel
              </Press>
            )}
            {more && (
              <>
                <span className="flex-1" />
                {more}
              </>
            )}
          </div>
        </form>
      </ShownContext>
    </FormProvider>
  );
}
