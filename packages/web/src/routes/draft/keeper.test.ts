import type { RouteView } from '@grammata/contract';
import { ROUTE_FORMAT, usualTerms, type RouteDefinition } from '@grammata/core/route';
import { DraftKeeper, PAUSE, type Rescued } from './keeper';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const named = (name: string): RouteDefinition => ({
  format: ROUTE_FORMAT,
  name,
  condition: { all: [] },
  calls: [],
  terms: usualTerms,
});
const rename = (name: string) => (draft: RouteDefinition) => ({ ...draft, name });

class Conflict extends Error {}

/** A server that holds one draft, and the browser's memory. */
class Held {
  draft = named('first');
  revision = 3;
  saves: string[] = [];
  fails: Error | null = null;
  rescued: Rescued | null = null;
  /** Holds answers back until it is called. */
  answer: (() => void) | null = null;
  isSlow = false;

  view = () => ({ draft: this.draft, revision: this.revision }) as RouteView;
  shelf = {
    save: async (definition: RouteDefinition, revision: number) => {
      this.saves.push(definition.name);
      if (this.isSlow) await new Promise<void>(done => (this.answer = done));
      if (this.fails) throw this.fails;
      if (revision !== this.revision) throw new Conflict();
      this.draft = definition;
      this.revision += 1;
      return this.view();
    },
    isConflict: (reason: unknown) => reason instanceof Conflict,
    load: async () => this.view(),
    rescue: { read: () => this.rescued, write: (rescued: Rescued | null) => (this.rescued = rescued) },
  };
  /** What somebody else does. */
  editElsewhere(name: string) {
    this.draft = named(name);
    this.revision += 1;
  }
  open = () => new DraftKeeper(this.view(), this.shelf);
}

let held: Held;
let keeper: DraftKeeper;
const settle = (milliseconds = PAUSE) => jest.advanceTimersByTimeAsync(milliseconds);
const shown = () => [keeper.state().present.name, keeper.state().saving];
beforeEach(() => {
  held = new Held();
  keeper = held.open();
});

test('edits show at once and are stored half a second after the last, as one', async () => {
  keeper.edit(rename('a'));
  await settle(PAUSE - 100);
  keeper.edit(rename('ab'));
  expect(shown()).toEqual(['ab', 'unsaved']);
  await settle(PAUSE - 1);
  expect(held.saves).toEqual([]);
  await settle(1);
  expect([held.saves, held.draft.name, shown()]).toEqual([['ab'], 'ab', ['ab', 'saved']]);
});

test('a burst is one step of undo, and undo is stored like an edit', async () => {
  for (const name of ['a', 'ab', 'abc']) keeper.edit(rename(name));
  await settle();
  await settle(PAUSE);
  keeper.edit(rename('next'));
  keeper.undo();
  expect(shown()).toEqual(['abc', 'unsaved']);
  keeper.undo();
  expect(keeper.state().present.name).toBe('first');
  keeper.redo();
  keeper.redo();
  expect(keeper.state().present.name).toBe('next');
  await settle();
  expect(held.draft.name).toBe('next');
});

test('what is edited while it is being stored is stored after it', async () => {
  held.isSlow = true;
  keeper.edit(rename('a'));
  await settle();
  keeper.edit(rename('b'));
  held.isSlow = false;
  held.answer!();
  await settle();
  expect([held.saves, held.draft.name, shown()]).toEqual([['a', 'b'], 'b', ['b', 'saved']]);
});

test('a save that fails says why, keeps the edit for the next page, and can be tried again', async () => {
  held.fails = new Error('no room');
  keeper.edit(rename('a'));
  await settle();
  expect([shown(), keeper.state().fault, held.rescued?.definition.name]).toEqual([['a', 'failed'], held.fails, 'a']);
  held.fails = null;
  await keeper.flush();
  expect([shown(), held.draft.name, held.rescued]).toEqual([['a', 'saved'], 'a', null]);
});

test('an edit made elsewhere is taken over while nothing of ours is unsaved', () => {
  held.editElsewhere('theirs');
  keeper.heard(held.view());
  expect(shown()).toEqual(['theirs', 'saved']);
});

describe('two people edit at once', () => {
  beforeEach(async () => {
    held.editElsewhere('theirs');
    keeper.edit(rename('mine'));
    await settle();
  });

  test('both are there to choose from, and nothing is stored meanwhile', async () => {
    expect([shown(), keeper.state().theirs?.draft.name]).toEqual([['mine', 'conflict'], 'theirs']);
    keeper.edit(rename('mine, more'));
    await settle(5000);
    expect([held.draft.name, shown()]).toEqual(['theirs', ['mine, more', 'conflict']]);
  });

  test('mine is stored; theirs is one undo away', async () => {
    await keeper.keepMine();
    expect([held.draft.name, shown(), keeper.state().theirs]).toEqual(['mine', ['mine', 'saved'], null]);
    keeper.undo();
    expect(keeper.state().present.name).toBe('theirs');
  });

  test('theirs is taken; mine is one undo away', async () => {
    keeper.takeTheirs();
    expect([held.draft.name, shown(), held.rescued]).toEqual(['theirs', ['theirs', 'saved'], null]);
    keeper.undo();
    await settle();
    expect(held.draft.name).toBe('mine');
  });

  test('an edit that comes while one chooses is a conflict again, not a loss', async () => {
    held.editElsewhere('theirs too');
    await keeper.keepMine();
    expect([shown(), keeper.state().theirs?.draft.name]).toEqual([['mine', 'conflict'], 'theirs too']);
  });
});

describe('a page that is closed before its edit is stored', () => {
  beforeEach(() => {
    held.fails = new Error('the page is gone');
    keeper.edit(rename('late'));
    keeper.leave();
  });

  test('hands it to the next, which stores it', async () => {
    held.fails = null;
    keeper = held.open();
    expect([shown(), keeper.state().isRescued]).toEqual([['late', 'unsaved'], true]);
    await settle();
    expect([held.draft.name, held.rescued, shown(), keeper.state().isRescued]).toEqual([
      'late',
      null,
      ['late', 'saved'],
      false,
    ]);
  });

  test('and where somebody edited meanwhile, the next asks', async () => {
    held.fails = null;
    held.editElsewhere('theirs');
    keeper = held.open();
    await settle();
    expect([shown(), keeper.state().theirs?.draft.name]).toEqual([['late', 'conflict'], 'theirs']);
  });
});

describe('a save whose answer was never heard', () => {
  test('is no conflict with oneself', async () => {
    keeper.edit(rename('mine'));
    held.editElsewhere('mine');
    await settle();
    expect([shown(), keeper.state().theirs, held.rescued]).toEqual([['mine', 'saved'], null, null]);
    keeper.edit(rename('more'));
    await settle();
    expect([held.draft.name, shown()]).toEqual(['more', ['more', 'saved']]);
  });

  test('leaves the next page nothing to take up', () => {
    held.rescued = { definition: named('mine'), revision: 3 };
    held.editElsewhere('mine');
    keeper = held.open();
    expect([shown(), keeper.state().isRescued, held.rescued]).toEqual([['mine', 'saved'], false, null]);
  });
});

test('who listens hears of each change, and not after leaving', () => {
  const heard = jest.fn();
  const stop = keeper.subscribe(heard);
  keeper.edit(rename('a'));
  stop();
  keeper.edit(rename('b'));
  expect(heard).toHaveBeenCalledTimes(1);
});

test('who wants to go on with what is stored hears whether that is what is shown', async () => {
  keeper.edit(rename('a'));
  expect(await keeper.flush()).toBe(true);
  held.fails = new Error('no room');
  keeper.edit(rename('b'));
  expect(await keeper.flush()).toBe(false);
  held.fails = null;
  held.editElsewhere('theirs');
  expect(await keeper.flush()).toBe(false);
  expect(keeper.state().saving).toBe('conflict');
  expect(await keeper.flush()).toBe(false);
});

test('what was edited while an older edit is being stored is left behind too, when the page goes', async () => {
  held.isSlow = true;
  keeper.edit(rename('a'));
  await settle();
  keeper.edit(rename('b'));
  keeper.leave();
  held.answer!();
  await settle(0);
  expect(held.rescued).toMatchObject({ definition: { name: 'b' }, revision: 4 });
});
