import type { ArrivalView } from '@grammata/contract';
import { escapeToken, type Json } from '@grammata/core/submission';
import { useMemo, useRef } from 'react';
import { hintOf, OneStop, Place } from '../../ui';
import { moved } from './moved';
import { tagsOf, type Tag, type Tags } from './tags';
import { useScrolledTo } from './useScrolledTo';

/** One line of the tree: a place in the document, and what it was read as. */
interface Branch {
  pointer: string;
  depth: number;
  name: string;
  hint: string;
  tag: Tag | null;
  isAside: boolean;
}

const MOST_LINES = 400;
const DEEPEST = 12;

/** The document as lines, with what the reader made of each place. */
function branchesOf(document: Json, tags: Tags, asides: Set<string>): Branch[] {
  const lines: Branch[] = [];
  const walk = (value: Json, pointer: string, depth: number, isAside: boolean) => {
    if (typeof value !== 'object' || value === null || depth > DEEPEST) return;
    for (const [name, each] of Array.isArray(value) ? value.entries() : Object.entries(value)) {
      if (lines.length >= MOST_LINES) return;
      const at = `${pointer}/${escapeToken(name)}`;
      const aside = isAside || asides.has(at);
      lines.push({
        pointer: at,
        depth,
        name: String(name),
        hint: hintOf(each),
        tag: tags.get(at) ?? null,
        isAside: aside,
      });
      walk(each, at, depth + 1, aside);
    }
  };
  walk(document, '', 0, false);
  return lines;
}

const tagColours: Record<Tag['is'], string> = {
  found: 'font-semibold text-oxide',
  part: 'text-ink-3',
  blank: 'font-semibold text-ink-3',
};

interface StructureProps {
  arrival: ArrivalView;
  hot: string | null;
  onHot: (pointer: string | null) => void;
  /** Set while a person points at places. */
  onPoint?: ((pointer: string) => void) | null;
}

/** How the message is built, place by place, and what each was read as. */
export function Structure({ arrival, hot, onHot, onPoint = null }: StructureProps) {
  const { lines, top } = useMemo(() => {
    const { tags, asides } = tagsOf(arrival);
    return { lines: branchesOf(arrival.document, tags, asides), top: tags.get('')?.says ?? null };
  }, [arrival]);
  const box = useRef<HTMLDivElement>(null);
  useScrolledTo(box, hot);
  if (lines.length === 0) {
    return <p className="py-1 font-serif text-reading text-ink-2">No structure to show.</p>;
  }
  return (
    <div
      ref={box}
      role="region"
      aria-label="Structure of the message"
      tabIndex={0}
      className="max-h-[calc(100vh-21rem)] min-h-40 overflow-auto"
    >
      <OneStop>
        {(onPoint || top) && (
          <li className="truncate font-mono text-small/5 text-ink-3">
            <Place onPoint={onPoint && (() => onPoint(''))} onLit={() => onHot(null)}>
              the whole message {hintOf(arrival.document)}
              {top && <span className={`ml-2 font-sans text-fine ${tagColours.found}`}>{top}</span>}
            </Place>
          </li>
        )}
        {lines.map(({ pointer, depth, name, hint, tag, isAside }) => (
          <li
            key={pointer}
            data-hot={hot === pointer || undefined}
            onMouseMove={event => moved(event) && onHot(pointer)}
            onMouseLeave={event => moved(event) && onHot(null)}
            title={pointer}
            style={{ paddingLeft: `${depth * 0.875}rem` }}
            className={`truncate font-mono text-small/5 ${hot !== null && (hot === pointer || hot === tag?.with) ? 'bg-lapis-wash text-lapis' : isAside ? 'text-ink-3' : ''}`}
          >
            <Place onPoint={onPoint && (() => onPoint(pointer))} onLit={() => onHot(pointer)}>
              {name} <span className={hot === pointer ? 'text-ink-2' : 'text-ink-3'}>{hint}</span>
              {tag && tag.says !== '' && (
                <span
                  className={`ml-2 font-sans text-fine ${tag.is !== 'found' && (hot === pointer || hot === tag.with) ? 'text-ink-2' : tagColours[tag.is]}`}
                >
                  {tag.says}
                </span>
              )}
            </Place>
          </li>
        ))}
      </OneStop>
      {lines.length >= MOST_LINES && <p className="pt-2 font-serif text-ink-2">… and more.</p>}
    </div>
  );
}
