import { escapeToken, isJsonObject, type Json } from '@grammata/core/submission';
import { useEffect, useRef, type ReactNode } from 'react';

/** What stands at a place, in a few characters. */
export const hintOf = (value: Json): string => {
  if (Array.isArray(value)) return `[${value.length}]`;
  if (isJsonObject(value)) return '';
  const text = value === null ? 'null' : String(value);
  return text.length > 28 ? `${text.slice(0, 27)}…` : text;
};

const steps: Record<string, (at: number, last: number) => number> = {
  ArrowDown: at => at + 1,
  ArrowUp: at => at - 1,
  Home: () => 0,
  End: (_, last) => last,
  PageDown: (at, last) => Math.min(last, at + 10),
  PageUp: at => Math.max(0, at - 10),
};

/** The lines of a tree: one stop for the tab key, however many there are; arrows go from one to the next. */
export function Places({ children }: { children: ReactNode }) {
  const list = useRef<HTMLUListElement>(null);
  const all = () => [...(list.current?.querySelectorAll('button') ?? [])];
  useEffect(() => {
    const places = all();
    if (places.length > 0 && !places.some(each => each.tabIndex === 0)) places[0]!.tabIndex = 0;
  });
  return (
    <ul
      ref={list}
      onFocus={({ target }) => {
        for (const each of all()) each.tabIndex = each === (target as Element) ? 0 : -1;
      }}
      onKeyDown={event => {
        const places = all();
        const at = places.indexOf(event.target as HTMLButtonElement);
        const next = at < 0 ? undefined : places[steps[event.key]?.(at, places.length - 1) ?? -1];
        if (!next) return;
        event.preventDefault();
        next.focus();
      }}
    >
      {children}
    </ul>
  );
}

/** A line of the tree; while a person points, one to press. */
export function Place({
  onPoint,
  onLit,
  children,
}: {
  onPoint: (() => void) | null;
  onLit: () => void;
  children: ReactNode;
}) {
  if (!onPoint) return children;
  return (
    <button
      type="button"
      tabIndex={-1}
      onClick={onPoint}
      onFocus={onLit}
      className="block w-full truncate text-left hover:underline"
    >
      {children}
    </button>
  );
}

const MOST_LINES = 300;
const DEEPEST = 12;

interface Line {
  pointer: string;
  depth: number;
  name: string;
  value: Json;
}

function linesOf(document: Json): Line[] {
  const lines: Line[] = [];
  const walkThrough = (value: Json, pointer: string, depth: number) => {
    if (typeof value !== 'object' || value === null || depth > DEEPEST) return;
    for (const [name, each] of Object.entries(value)) {
      if (lines.length >= MOST_LINES) return;
      const at = `${pointer}/${escapeToken(name)}`;
      lines.push({ pointer: at, depth, name, value: each });
      walkThrough(each, at, depth + 1);
    }
  };
  walkThrough(document, '', 0);
  return lines;
}

/** A document as a tree whose places are pointed at. What a place is, is told behind it. */
export function PlaceTree({
  label,
  document,
  tags,
  onPoint,
}: {
  label: string;
  document: Json;
  tags: ReadonlyMap<string, string>;
  onPoint: (pointer: string) => void;
}) {
  const lines = linesOf(document);
  const tag = (pointer: string) =>
    tags.has(pointer) && <span className="ml-2 font-sans text-fine font-semibold text-oxide">{tags.get(pointer)}</span>;
  return (
    <div
      role="region"
      aria-label={label}
      tabIndex={0}
      className="max-h-80 overflow-auto border border-rule bg-paper p-2"
    >
      <Places>
        <li className="truncate font-mono text-small/5 text-ink-3">
          <Place onPoint={() => onPoint('')} onLit={() => undefined}>
            the whole answer {hintOf(document)}
            {tag('')}
          </Place>
        </li>
        {lines.map(({ pointer, depth, name, value }) => (
          <li
            key={pointer}
            title={pointer}
            style={{ paddingLeft: `${depth * 0.875}rem` }}
            className="truncate font-mono text-small/5"
          >
            <Place onPoint={() => onPoint(pointer)} onLit={() => undefined}>
              {name} <span className="text-ink-3">{hintOf(value)}</span>
              {tag(pointer)}
            </Place>
          </li>
        ))}
      </Places>
      {lines.length >= MOST_LINES && <p className="pt-2 font-serif text-ink-2">… and more.</p>}
    </div>
  );
}
