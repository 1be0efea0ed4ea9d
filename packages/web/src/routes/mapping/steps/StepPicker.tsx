import { asText, type Json } from '@grammata/core/submission';
import { compileChain, isProblem, transforms, type Step, type TransformContext } from '@grammata/core/transform';
import { Command } from 'cmdk';
import { Popover } from 'radix-ui';
import { useRef, useState } from 'react';
import { found } from '../../../ui';

const freshStep = (id: string): Step => {
  const transform = transforms.find(each => each.id === id)!;
  return { id, params: { ...new transform.params() } };
};

const all = transforms.map(transform => ({ transform, label: transform.label, words: transform.summary }));
type Listed = (typeof all)[number];

/** The steps by what they are for, in the order in which those stand in the library. */
const families = [...new Set(all.map(each => each.transform.family))].map(
  family => [family, all.filter(each => each.transform.family === family)] as const,
);

const outcome = (value: Json, { transform }: Listed, context: TransformContext) =>
  compileChain([freshStep(transform.id)]).run(value, context);

/** What a step would make of the value at hand, in a few characters. */
function preview(result: ReturnType<typeof outcome>): string {
  return isProblem(result)
    ? `! ${result.message}`
    : Array.isArray(result)
      ? result.map(asText).join(' · ')
      : asText(result) || 'blank';
}

/** How well a step suits the value at hand: what changes it before what leaves it, and that before what can't take it. */
function suits(value: Json, result: ReturnType<typeof outcome>): number {
  if (isProblem(result)) return 0;
  return JSON.stringify(result) === JSON.stringify(value) ? 1 : 2;
}

/** Adds a step: searched by name, each shown with what it would give. */
export function StepPicker({
  value,
  context,
  onPick,
}: {
  value: Json;
  context: TransformContext;
  onPick: (step: Step) => void;
}) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const list = useRef<HTMLDivElement>(null);
  const listed = found(all, typed, each => suits(value, outcome(value, each, context)));
  const pick = (id: string) => {
    setOpen(false);
    onPick(freshStep(id));
  };
  const item = (each: Listed) => (
    <Command.Item
      key={each.transform.id}
      value={each.transform.id}
      onSelect={() => pick(each.transform.id)}
      className="cursor-pointer border-l-2 border-transparent px-3 py-1.5 data-[selected=true]:border-oxide data-[selected=true]:bg-oxide-wash"
    >
      <div className="flex items-baseline justify-between gap-4">
        <span className="shrink-0 font-medium">{each.label}</span>
        <span className="min-w-0 truncate font-mono text-small text-ink-2">
          {preview(outcome(value, each, context))}
        </span>
      </div>
      <div className="text-small text-ink-3">{each.words}</div>
    </Command.Item>
  );
  return (
    <Popover.Root
      open={open}
      onOpenChange={is => {
        setOpen(is);
        setTyped('');
      }}
    >
      {/* What it opens is not there before it is open. */}
      <Popover.Trigger {...(open ? {} : { 'aria-controls': undefined })} className="py-1 text-ink-3 hover:text-oxide">
        add step…
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="floats z-30 w-[min(26rem,calc(100vw-1rem))]"
          role="dialog"
          aria-label="Add step"
        >
          <Command label="Steps" shouldFilter={false}>
            <Command.Input
              autoFocus
              value={typed}
              onValueChange={next => {
                setTyped(next);
                // The best of what is found stands at the top.
                requestAnimationFrame(() => list.current?.scrollTo({ top: 0 }));
              }}
              placeholder="Search steps"
              className="w-full border-b border-rule bg-transparent px-3.5 py-2.5 font-serif text-reading outline-none"
            />
            <Command.List ref={list} className="max-h-80 overflow-auto py-1">
              {typed.trim() === ''
                ? families.map(([family, own]) => (
                    <Command.Group
                      key={family}
                      heading={family}
                      className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-fine [&_[cmdk-group-heading]]:text-ink-2"
                    >
                      {own.map(item)}
                    </Command.Group>
                  ))
                : listed.map(item)}
            </Command.List>
            <p role="status" className={listed.length === 0 ? 'px-3 py-1.5 text-ink-2' : 'sr-only'}>
              {listed.length === 0 ? 'No matching step.' : ''}
            </p>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
