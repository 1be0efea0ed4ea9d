import { asText, type Json } from '@grammata/core/submission';
import { compileChain, isProblem, transforms, type Step, type TransformContext } from '@grammata/core/transform';
import { Command } from 'cmdk';
import { Popover } from 'radix-ui';
import { NothingFound } from '../../../ui';
import { useRef, useState } from 'react';

const freshStep = (id: string): Step => {
  const transform = transforms.find(each => each.id === id)!;
  return { id, params: { ...new transform.params() } };
};

/** The steps by what they are for, in the order in which those stand in the library. */
const families = [...new Set(transforms.map(each => each.family))].map(
  family => [family, transforms.filter(each => each.family === family)] as const,
);

/** What a step would make of the value at hand, in a few characters. */
function preview(value: Json, id: string, context: TransformContext): string {
  const result = compileChain([freshStep(id)]).run(value, context);
  return isProblem(result)
    ? `! ${result.message}`
    : Array.isArray(result)
      ? result.map(asText).join(' · ')
      : asText(result) || 'blank';
}

/** How well a step fits what is typed: its label before its summary; every word has to be there. */
function fit(value: string, typed: string): number {
  const [label = '', summary = ''] = value.toLowerCase().split('\n');
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.every(word => label.includes(word))) return label.startsWith(words[0] ?? '') ? 1 : 0.9;
  return words.every(word => label.includes(word) || summary.includes(word)) ? 0.5 : 0;
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
  const list = useRef<HTMLDivElement>(null);
  const pick = (id: string) => {
    setOpen(false);
    onPick(freshStep(id));
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      {/* What it opens is not there before it is open. */}
      <Popover.Trigger {...(open ? {} : { 'aria-controls': undefined })} className="py-1 text-ink-3 hover:text-oxide">
        add a step…
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="floats z-30 w-[min(26rem,calc(100vw-1rem))]"
          role="dialog"
          aria-label="Add a step"
        >
          <Command label="Steps" filter={fit}>
            <Command.Input
              autoFocus
              // The best of what is found stands at the top.
              onValueChange={() => requestAnimationFrame(() => list.current?.scrollTo({ top: 0 }))}
              placeholder="What should happen to it?"
              className="w-full border-b border-rule bg-transparent px-3.5 py-2.5 font-serif text-[0.9375rem] outline-none"
            />
            <Command.List ref={list} className="max-h-80 overflow-auto py-1">
              {families.map(([family, all]) => (
                <Command.Group
                  key={family}
                  heading={family}
                  className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-fine [&_[cmdk-group-heading]]:text-ink-2"
                >
                  {all.map(transform => (
                    <Command.Item
                      key={transform.id}
                      value={`${transform.label}\n${transform.summary}`}
                      onSelect={() => pick(transform.id)}
                      className="cursor-pointer border-l-2 border-transparent px-3 py-1.5 data-[selected=true]:border-oxide data-[selected=true]:bg-oxide-wash"
                    >
                      <div className="flex items-baseline justify-between gap-4">
                        <span className="shrink-0 font-medium">{transform.label}</span>
                        <span className="min-w-0 truncate font-mono text-small text-ink-2">
                          {preview(value, transform.id, context)}
                        </span>
                      </div>
                      <div className="text-small text-ink-3">{transform.summary}</div>
                    </Command.Item>
                  ))}
                </Command.Group>
              ))}
            </Command.List>
            <NothingFound>No step is called that.</NothingFound>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
