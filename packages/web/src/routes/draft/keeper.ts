import type { RouteView } from '@grammata/contract';
import { sameDefinition, type RouteDefinition } from '@grammata/core/route';

/** What the draft of a route is stored with. */
export interface Shelf {
  /** Stores it; rejects, with `isConflict` true of the reason, when somebody else stored a newer one. */
  save(definition: RouteDefinition, revision: number): Promise<RouteView>;
  isConflict(reason: unknown): boolean;
  /** The draft as it is stored now. */
  load(): Promise<RouteView>;
  /** Where what is not stored yet outlives the page. */
  rescue: { read(): Rescued | null; write(rescued: Rescued | null): void };
}

export interface Rescued {
  definition: RouteDefinition;
  revision: number;
}

export interface DraftState {
  past: RouteDefinition[];
  present: RouteDefinition;
  future: RouteDefinition[];
  saving: 'saved' | 'unsaved' | 'failed' | 'conflict';
  /** Why it could not be stored. */
  fault: unknown;
  /** What somebody else stored meanwhile; null but in a conflict. */
  theirs: RouteView | null;
  /** True while edits are shown that an earlier page could not store. */
  isRescued: boolean;
}

/** How long after the last edit it is stored, in ms. Edits within it are one step of undo. */
export const PAUSE = 500;
const MOST_STEPS = 100;

/**
 * A route's draft under the hands: edits show at once, are stored by themselves and can be undone. Nothing that was edited is lost:
 * not by somebody else's edit, by a save that fails, nor by a page that is closed.
 */
export class DraftKeeper {
  #state: DraftState;
  #revision: number;
  #stored: RouteDefinition;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #underWay: Promise<void> | null = null;
  #editedAt = -Infinity;
  readonly #listeners = new Set<() => void>();

  constructor(
    { draft, revision }: Pick<RouteView, 'draft' | 'revision'>,
    private readonly shelf: Shelf,
  ) {
    this.#revision = revision;
    this.#stored = draft;
    this.#state = {
      past: [],
      present: draft,
      future: [],
      saving: 'saved',
      fault: null,
      theirs: null,
      isRescued: false,
    };
    const rescued = shelf.rescue.read();
    if (rescued === null) return;
    if (sameDefinition(rescued.definition, draft)) {
      shelf.rescue.write(null);
      return;
    }
    this.#revision = rescued.revision;
    this.#state = { ...this.#state, past: [draft], present: rescued.definition, saving: 'unsaved', isRescued: true };
    this.#plan();
  }

  readonly state = (): DraftState => this.#state;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  readonly edit = (change: (draft: RouteDefinition) => RouteDefinition): void => {
    const isBurst = Date.now() - this.#editedAt < PAUSE;
    this.#editedAt = Date.now();
    const { past, present } = this.#state;
    this.#become({
      past: isBurst && past.length > 0 ? past : [...past, present].slice(-MOST_STEPS),
      present: change(present),
      future: [],
    });
  };

  readonly undo = (): void => {
    const { past, present, future } = this.#state;
    if (past.length > 0) this.#become({ past: past.slice(0, -1), present: past.at(-1)!, future: [present, ...future] });
  };

  readonly redo = (): void => {
    const { past, present, future } = this.#state;
    if (future.length > 0) this.#become({ past: [...past, present], present: future[0]!, future: future.slice(1) });
  };

  /** Stores everything edited so far; false where that can't be done: what is stored is then not what is shown. */
  readonly flush = async (): Promise<boolean> => {
    clearTimeout(this.#timer);
    this.#timer = undefined;
    while (this.#underWay) await this.#underWay;
    if (this.#state.saving === 'conflict') return false;
    const { present } = this.#state;
    if (present === this.#stored) {
      this.#set({ saving: 'saved' });
      return true;
    }
    this.#underWay = this.#save(present).finally(() => (this.#underWay = null));
    await this.#underWay;
    return this.#state.present === this.#stored;
  };

  /** Stores everything edited so far; the revision of what was shown, or null where that is not what is stored. */
  readonly storedAs = async (shown: RouteDefinition): Promise<number | null> =>
    (await this.flush()) && this.#state.present === shown ? this.#revision : null;

  /** In a conflict: stores mine in the place of theirs. Theirs is one step of undo away. */
  readonly keepMine = async (): Promise<void> => {
    const { theirs, past } = this.#state;
    if (!theirs) return;
    this.#revision = theirs.revision;
    this.#stored = theirs.draft;
    this.#set({ past: [...past, theirs.draft].slice(-MOST_STEPS), saving: 'unsaved', theirs: null });
    await this.flush();
  };

  /** In a conflict: takes theirs. Mine is one step of undo away. */
  readonly takeTheirs = (): void => {
    const { theirs, past, present } = this.#state;
    if (!theirs) return;
    this.#revision = theirs.revision;
    this.#stored = theirs.draft;
    this.shelf.rescue.write(null);
    this.#set({
      past: [...past, present].slice(-MOST_STEPS),
      present: theirs.draft,
      future: [],
      saving: 'saved',
      theirs: null,
      isRescued: false,
    });
  };

  /** An edit made elsewhere is taken over, as long as nothing of ours is unsaved. */
  readonly heard = ({ draft, revision }: Pick<RouteView, 'draft' | 'revision'>): void => {
    if (revision <= this.#revision || this.#state.present !== this.#stored) return;
    this.#revision = revision;
    this.#stored = draft;
    this.#set({ past: [], present: draft, future: [] });
  };

  /** The page goes: what is not stored is kept for the next. */
  readonly leave = (): void => {
    if (this.#state.present !== this.#stored)
      this.shelf.rescue.write({ definition: this.#state.present, revision: this.#revision });
    void this.flush();
  };

  async #save(sent: RouteDefinition): Promise<void> {
    try {
      const view = await this.shelf.save(sent, this.#revision);
      this.#revision = view.revision;
      this.#stored = sent;
      const { present } = this.#state;
      const isAll = present === sent;
      // The page may be going: what was edited meanwhile stays behind.
      this.shelf.rescue.write(isAll ? null : { definition: present, revision: view.revision });
      this.#set({ fault: null, saving: isAll ? 'saved' : 'unsaved', isRescued: false });
      if (!isAll) this.#plan();
    } catch (reason) {
      this.shelf.rescue.write({ definition: this.#state.present, revision: this.#revision });
      if (this.shelf.isConflict(reason)) await this.#conflict();
      else this.#set({ fault: reason, saving: 'failed' });
    }
  }

  /** What is shown is what is stored. */
  #stands(revision: number): void {
    this.#revision = revision;
    this.#stored = this.#state.present;
    this.shelf.rescue.write(null);
    this.#set({ fault: null, saving: 'saved', isRescued: false });
  }

  async #conflict(): Promise<void> {
    try {
      const theirs = await this.shelf.load();
      // A save whose answer was never heard, as of a page that was closed: it is ours.
      if (sameDefinition(theirs.draft, this.#state.present)) return this.#stands(theirs.revision);
      this.#set({ saving: 'conflict', theirs, fault: null });
    } catch (reason) {
      this.#set({ fault: reason, saving: 'failed' });
    }
  }

  #become(next: Pick<DraftState, 'past' | 'present' | 'future'>): void {
    const isHeld = this.#state.saving === 'conflict';
    this.#set({ ...next, ...(isHeld ? {} : { saving: 'unsaved' }) });
    if (!isHeld) this.#plan();
  }

  #plan(): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.flush(), PAUSE);
  }

  #set(change: Partial<DraftState>): void {
    this.#state = { ...this.#state, ...change };
    for (const listener of this.#listeners) listener();
  }
}
