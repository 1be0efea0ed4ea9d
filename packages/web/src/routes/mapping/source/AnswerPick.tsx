import { referredTo } from '@grammata/core/scope';
import { asText, isBlank } from '@grammata/core/submission';
import { Command } from 'cmdk';
import { useState } from 'react';
import { found, kindMarks } from '../../../ui';
import { useWorkbench } from '../../workbench';

/** Fills a line by typing words of a question; each is shown with its answer in the sample at hand. */
export function AnswerPick({ value, onPick }: { value: string | null; onPick: (key: string) => void }) {
  const { references, sample, labelOf } = useWorkbench('walk', 'offers');
  // What is typed, or null while the line's own answer is shown.
  const [typed, setTyped] = useState<string | null>(null);
  const pick = (key: string) => {
    setTyped(null);
    onPick(key);
  };
  const answer = (key: string) => {
    const found = sample ? referredTo(sample.scope, key) : null;
    return isBlank(found) ? '–' : asText(found);
  };
  const isOpen = typed !== null;
  const listed = found(
    references.map(each => ({ ...each, words: each.key })),
    typed ?? '',
    ({ key }) => (answer(key) === '–' ? 0 : 1),
  );
  return (
    <Command
      label="Answer"
      shouldFilter={false}
      className="relative"
      onKeyDown={event => {
        if (!isOpen && (event.key === 'Enter' || event.key.startsWith('Arrow'))) {
          // Nothing is picked from a list that is not seen: it opens first.
          event.preventDefault();
          setTyped('');
        }
        if (event.key !== 'Escape' || !isOpen) return;
        event.stopPropagation();
        setTyped(null);
      }}
    >
      <span aria-hidden className="block text-small text-ink-2">
        Answer
      </span>
      <Command.Input
        aria-description="Type to search, or choose it in the sample on the left."
        aria-expanded={isOpen}
        autoFocus={value === null}
        className="write text-lapis"
        placeholder="search questions…"
        value={typed ?? (value === null ? '' : labelOf(value))}
        onValueChange={setTyped}
        onFocus={event => {
          setTyped('');
          event.target.select();
        }}
        onBlur={() => setTyped(null)}
      />
      <div hidden={!isOpen} className="floats absolute inset-x-0 top-[2.9rem] z-20">
        <Command.List className="max-h-64 overflow-auto py-1">
          {listed.map(({ key, label, kind }) => (
            <Command.Item
              key={key}
              value={key}
              onSelect={() => pick(key)}
              onMouseDown={event => event.preventDefault()}
              className="grid cursor-pointer grid-cols-[1rem_minmax(0,1fr)_minmax(0,1fr)] gap-3 border-l-2 border-transparent px-3 py-1 data-[selected=true]:border-oxide data-[selected=true]:bg-oxide-wash"
            >
              <span aria-hidden className="text-center font-mono text-fine text-ink-3">
                {kindMarks[kind].mark}
              </span>
              <span className="truncate text-lapis">{label}</span>
              <span className="truncate font-mono text-small text-ink-2">{answer(key)}</span>
            </Command.Item>
          ))}
        </Command.List>
        <p role="status" className={listed.length === 0 ? 'px-3 py-1.5 text-ink-2' : 'sr-only'}>
          {isOpen && listed.length === 0 ? 'No matching question.' : ''}
        </p>
      </div>
      <span aria-hidden className="block text-small text-ink-3">
        Type to search, or choose it in the sample on the left.
      </span>
    </Command>
  );
}
