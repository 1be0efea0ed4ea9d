import { escapeToken, isJsonObject, type Json } from '@grammata/core/submission';
import type { ReactNode } from 'react';
import { OneStop } from './OneStop';

/** What stands at a place, in a few characters. */
export const hintOf = (value: Json): string => {
  if (Array.isArray(value)) return `[${value.length}]`;
  if (isJsonObject(value)) return '';
  const text = value === null ? 'null' : String(value);
  return text.length > 28 ? `${text.slice(0, 27)}…` : text;
};

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
    <button type="button" onClick={onPoint} onFocus={onLit} className="block w-full truncate text-left hover:underline">
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

/** A document as a tree whose places are pointed at. What a place means is written behind it. */
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
      <OneStop>
        <li className="truncate font-mono text-small/5 text-ink-3">
          <Place onPoint={() => onPoint('')} onLit={() => undefined}>
            whole response {hintOf(document)}
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
      </OneStop>
      {lines.length >= MOST_LINES && <p className="pt-2 font-serif text-ink-2">… and more.</p>}
    </div>
  );
}
