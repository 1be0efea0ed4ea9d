import type { ChangeTouch, ChangeView } from '@grammata/contract';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { useParam, useView } from '../address';
import { Read } from '../app/Read';
import { useKeys } from '../app/keys';
import { useChanges } from '../drift';
import { Act, Choices, Empty, Sheet } from '../ui';
import { causesOf } from './causes';
import { Entry } from './Entry';
import { isStillListed, isWithdrawn } from './effect';
import { WhatIf } from './WhatIf';

/** What forms and targets do differently than before, by how much it stops: what each change affects, its repair, and who resolved it. */
export function Changes() {
  const changes = useChanges();
  return (
    <Read title="Changes" query={changes}>
      {({ changes: all, open }) => <Listed all={all} open={open} />}
    </Read>
  );
}

const touchOrder: ChangeTouch['touch'][] = ['breaks', 'risks', 'harmless'];

/** What is mended but not sent yet comes first, then what is open by how much it stops; of those that stop as much the newest first, as they come. */
const weightOf = (each: ChangeView): number =>
  each.state === 'open'
    ? touchOrder.indexOf(each.touch)
    : isStillListed(each) && !isWithdrawn(each)
      ? -1
      : touchOrder.length;

function Listed({ all, open }: { all: ChangeView[]; open: number }) {
  const [shows, show] = useView('show', { open: true, all: true }, 'open');
  const [asked, ask] = useParam('change');
  const [supposing, setSupposing] = useState(false);
  const list = useRef<HTMLUListElement>(null);
  const causes = causesOf(all);
  const shown = causes
    .filter(each => shows === 'all' || each.state === 'open' || isStillListed(each) || each.ids.includes(asked ?? ''))
    .toSorted((one, other) => weightOf(one) - weightOf(other));
  const first = shown.find(each => each.state === 'open' && each.touch === 'breaks');
  const opened = asked ?? first?.id ?? '';
  const move = (by: number) => {
    const heads = [...(list.current?.querySelectorAll<HTMLElement>('h2[tabindex]') ?? [])];
    const at = heads.findIndex(each => each.closest('li')?.contains(document.activeElement));
    heads[Math.min(heads.length - 1, Math.max(0, at + by))]?.focus();
  };
  useKeys([
    { key: 'j', does: 'next change', run: () => move(1) },
    { key: 'k', does: 'previous change', run: () => move(-1) },
    { key: 'w', does: 'what if…', run: () => setSupposing(true) },
    { key: 'a', does: 'open changes or all', run: () => show(shows === 'all' ? 'open' : 'all') },
  ]);
  return (
    <Sheet
      title="Changes"
      beside={
        <Choices
          label="Which changes"
          value={shows}
          onChange={show}
          ways={[
            { value: 'open', label: 'Open', count: open },
            { value: 'all', label: 'All', count: causes.length, title: 'Key a' },
          ]}
        />
      }
      actions={
        <>
          {!supposing && (
            <Act className="quiet" onClick={() => setSupposing(true)} title="Key w">
              What if…
            </Act>
          )}
          <Link className="act quiet" to="/changes/compare">
            Compare two messages
          </Link>
        </>
      }
    >
      {supposing && <WhatIf onClose={() => setSupposing(false)} />}
      {shown.length === 0 ? (
        <Empty title={all.length === 0 ? 'No changes yet' : 'No open changes'}>
          Grammata compares each submission with earlier ones of its form, and each target with how it was read before.
          Changes are listed here, with the routes they affect.
        </Empty>
      ) : (
        <ul aria-label="Changes" ref={list} className="mt-2.5 border-t border-ink">
          {shown.map(each => (
            <Entry
              key={each.id}
              change={each}
              isOpened={each.ids.includes(opened)}
              onOpen={() => ask(each.id)}
              onClose={() => ask('')}
            />
          ))}
        </ul>
      )}
    </Sheet>
  );
}
