import type { ButtonHTMLAttributes, ComponentProps, ReactNode } from 'react';
import { useNow } from './useNow';
import { useTitle } from './useTitle';
import { useExactTimes } from './exact';
import { ago, when, whenExactly, whenInFull } from './format';

/** A word to act on. */
export function Act({ className = '', ...rest }: ComponentProps<'button'>) {
  return <button type="button" className={`act ${className}`} {...rest} />;
}

export function Press({
  quiet = false,
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { quiet?: boolean }) {
  return <button type="button" className={`press ${quiet ? 'quiet' : ''} ${className}`} {...rest} />;
}

export type Tone = 'fine' | 'look' | 'trouble' | 'goes';
const marks: Record<Tone, { mark: string; colour: string; word: string }> = {
  fine: { mark: '✓', colour: 'text-verdigris', word: 'Fine' },
  look: { mark: '△', colour: 'text-ochre', word: 'Check' },
  trouble: { mark: '!', colour: 'text-crimson', word: 'Problem' },
  goes: { mark: '→', colour: 'text-ochre', word: 'Note' },
};

/** A note in the margin. */
export function Note({ tone, children }: { tone: Tone; children: ReactNode }) {
  const { mark, colour, word } = marks[tone];
  return (
    <div className="relative pl-4 font-serif text-body/[1.125rem] [&_.act]:font-sans [&_.act]:text-small">
      <span aria-hidden className={`absolute left-0 font-mono text-small font-bold ${colour}`}>
        {mark}
      </span>
      <span className="sr-only">{word}: </span>
      {children}
    </div>
  );
}

/** What there is to say about a page, beside it. */
export const Margin = ({ children }: { children: ReactNode }) => (
  <aside aria-label="Margin" className="space-y-4 border-rule bg-sunk px-4 pt-5 pb-12 max-lg:border-t lg:border-l">
    {children}
  </aside>
);

/** A page of a place: what it is about, and its margin. Without one, the page has its room. */
export function Sheet({
  crumb,
  title,
  beside,
  aside,
  actions,
  children,
}: {
  crumb?: ReactNode;
  title: ReactNode;
  /** Ways to look at it, beside the title. */
  beside?: ReactNode;
  aside?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
}) {
  useTitle(typeof title === 'string' ? title : '');
  return (
    <div className={`grid min-h-full grid-cols-1 ${aside === undefined ? '' : 'lg:grid-cols-[minmax(0,1fr)_268px]'}`}>
      <main className="min-w-0 px-6 pt-4 pb-12 max-sm:px-4">
        {crumb && <div className="text-small text-ink-3">{crumb}</div>}
        <div className="flex flex-wrap items-baseline justify-between gap-4">
          <div className="flex min-w-0 flex-wrap items-baseline gap-x-6 gap-y-1">
            <h1 className="min-w-0 [overflow-wrap:anywhere]">{title}</h1>
            {beside}
          </div>
          {actions && <div className="flex flex-wrap items-baseline gap-4">{actions}</div>}
        </div>
        {children}
      </main>
      {aside !== undefined && <Margin>{aside}</Margin>}
    </div>
  );
}

/** What belongs into an empty place, and the next step. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="mt-6 max-w-prose border-y border-rule py-8">
      <p className="font-serif text-lead font-semibold">{title}</p>
      <div className="mt-1 font-serif text-reading text-ink-2">{children}</div>
    </div>
  );
}

/** Something could not be read or done: what happened, and what to do. */
export function Fault({ children, again }: { children: ReactNode; again?: () => void }) {
  return (
    <div role="alert" className="my-4 border-l-2 border-crimson bg-crimson-wash px-4 py-2">
      <span className="mr-2 font-mono font-bold text-crimson" aria-hidden>
        !
      </span>
      {children} {again && <Act onClick={again}>Try again</Act>}
    </div>
  );
}

/** How many are fine, blank and in trouble, as a slim bar. Without a label it is read out by what stands around it. */
export function Bar({
  fine,
  blank = 0,
  trouble = 0,
  width = 46,
  label,
}: {
  fine: number;
  blank?: number;
  trouble?: number;
  width?: number;
  label?: string;
}) {
  const total = fine + blank + trouble;
  const share = (n: number) => (total === 0 || n === 0 ? 0 : Math.max(3, (n / total) * width));
  const part = (name: string, n: number, colour: string) =>
    n > 0 && (
      <span data-part={name} className="flex h-full items-center" style={{ width: share(n) }}>
        <span className={`h-1.5 w-full ${colour}`} />
      </span>
    );
  return (
    <span
      {...(label === undefined ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label, title: label })}
      className="inline-flex h-4 gap-px overflow-hidden bg-[linear-gradient(var(--rule),var(--rule))] bg-[length:100%_6px] bg-center bg-no-repeat align-middle"
      style={{ width }}
    >
      {part('fine', fine, 'bg-verdigris')}
      {part('blank', blank, 'bg-rule-strong')}
      {part('trouble', trouble, 'bg-crimson')}
    </span>
  );
}

/** A moment, as long ago; in full on hover, and everywhere while exact times are wanted. */
export function Moment({ at }: { at: string }) {
  const now = useNow(1000 * 10);
  const { isExact } = useExactTimes();
  return (
    <time dateTime={at} title={whenInFull(at)}>
      {isExact ? whenExactly(at) : ago(at, now)}
    </time>
  );
}

/** A time of day and date; exact while exact times are wanted. */
export function When({ at }: { at: string }) {
  const { isExact } = useExactTimes();
  return (
    <time dateTime={at} title={whenInFull(at)}>
      {isExact ? whenExactly(at) : when(at)}
    </time>
  );
}
