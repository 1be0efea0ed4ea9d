import type { FormChange } from '@grammata/core/drift';
import type { Logger } from 'pino';
import type { LiveHub } from '../live';
import { isTraffic, type ChangeRow, type SeenChange, type Store, type SubmissionRow } from '../store';
import type { Timers } from '../timing';
import type { Decoders } from '../decoding';
import { BEFORE, LEAST, NEWEST, type FormLook, type ToldChange } from './formChanges';
import { Gathering } from './gathering';
import { trafficChange } from './traffic';

/** Bytes of submissions that are compared: of large ones only the newest. */
const MOST_COMPARED = 4_000_000;
/** Submissions whose times say how many are usual. */
const MOST_TIMES = 2000;
/** Submissions of a form up to which it is a new one. */
const FEW = 3;
/** A submission by its place among those of its form. */
type Newest = Pick<SubmissionRow, 'id' | 'receivedAt'>;

export interface FormWatchParts {
  store: Pick<Store, 'changes' | 'forms'>;
  decoders: Pick<Decoders, 'lookAtForm'>;
  live: LiveHub;
  timers: Timers;
  log: Logger;
  /** ms after something happened before it is looked at; null where changes are not looked for. */
  changesAfter: number | null;
  /** Changes are over by themselves: the form does again what it did. */
  over(changes: readonly ChangeRow[]): Promise<void>;
}

/** Holds what arrives against what its form sent before. */
export class FormWatch {
  readonly #gathering: Gathering;
  /** The newest submission of each form that was looked at. */
  readonly #checked = new Map<string, Newest>();
  #isClosed = false;
  readonly #checking = new Map<string, Promise<void>>();

  constructor(private readonly parts: FormWatchParts) {
    this.#gathering = new Gathering(parts.timers, 'looking for changes of forms', parts.changesAfter, id =>
      this.check(id),
    );
  }

  /** Something came of these forms: they are looked at in a moment. */
  saw(formIds: Iterable<string>): void {
    this.#gathering.add(formIds);
  }

  close(): void {
    this.#isClosed = true;
    this.#gathering.close();
  }

  /** Looks whether forms fell silent, or send far more than usual. */
  async traffic(at: number): Promise<void> {
    const { store, live, timers, changesAfter } = this.parts;
    if (changesAfter === null) return;
    for (const { form } of store.forms.heads()) {
      const what = trafficChange(store.changes.times(form.id, MOST_TIMES), at);
      const seen = { subject: 'form' as const, subjectId: form.id, before: null, after: null, at };
      const fresh = what ? store.changes.keep([{ ...seen, what }]).length : 0;
      const over = what?.change === 'silent' ? 0 : this.#heardAgain(form.id);
      if (fresh + over > 0) live.publish({ type: 'drift' });
      await timers.turn();
    }
  }

  /** A silence that something came after is over. */
  #heardAgain(formId: string): number {
    const { changes } = this.parts.store;
    const [last = 0] = changes.times(formId, 1);
    const over = changes.openOf('form', formId).filter(each => each.what.change === 'silent' && each.firstAt < last);
    return changes.over(over.map(each => each.id)).length;
  }

  /** The form that an address has had so far, where this is another one of which nobody has said anything; else null. */
  #besideAnother(formId: string): string | null {
    const { forms } = this.parts.store;
    const row = forms.byId(formId);
    if (row?.form.state !== 'new') return null;
    const [most] = forms
      .heads(row.form.intakeId)
      .filter(each => each.form.id !== formId && each.form.state === 'adopted')
      .sort((a, b) => b.submissions - a.submissions);
    return most && most.submissions >= LEAST ? most.form.name : null;
  }

  /**
   * Looks at one form now, unless that was done since a submission came: many that come at once are looked at once. Gives the newest
   * submission that was looked at.
   */
  async checkFor({ id, formId, receivedAt }: Newest & Pick<SubmissionRow, 'formId'>): Promise<string> {
    const covers = (newest: Newest | undefined) =>
      newest && (receivedAt < newest.receivedAt || (receivedAt === newest.receivedAt && id <= newest.id));
    const known = this.#checked.get(formId);
    if (known && covers(known)) return known.id;
    // What is looked at already may have begun before this one came.
    await this.#checking.get(formId);
    if (!covers(this.#checked.get(formId))) await this.check(formId);
    return this.#checked.get(formId)?.id ?? id;
  }

  /** Looks at one form, in a thread of its own; keeps what it finds. One look at a form at a time. */
  check(formId: string): Promise<void> {
    if (this.parts.changesAfter === null) return Promise.resolve();
    const before = this.#checking.get(formId) ?? Promise.resolve();
    const checking = before
      .catch(() => undefined)
      .then(() => this.#check(formId))
      .finally(() => {
        if (this.#checking.get(formId) === checking) this.#checking.delete(formId);
      });
    this.#checking.set(formId, checking);
    return checking;
  }

  async #check(formId: string): Promise<void> {
    const { store, decoders, live, timers, log } = this.parts;
    const rows = store.changes.built(formId, BEFORE + NEWEST, MOST_COMPARED);
    const [newest] = rows;
    let look: FormLook = { changes: [], takenBack: [] };
    try {
      const looks = Math.max(rows.length, store.forms.byId(formId)?.submissions ?? 0);
      if (rows.length > LEAST) look = await decoders.lookAtForm(rows, looks, this.#toldOf(formId));
    } catch (error) {
      if (this.#isClosed) return;
      // Whatever kept it from looking is no matter to what is delivered meanwhile.
      log.warn({ err: error, form: formId }, 'changes of a form could not be looked for');
    }
    if (this.#isClosed) return;
    if (newest) this.#checked.set(formId, newest);
    const seen = look.changes.map(({ what, since, before, after }): SeenChange => ({
      subject: 'form',
      subjectId: formId,
      what,
      before,
      after,
      at: since,
    }));
    const other = rows.length > 0 && rows.length <= FEW ? this.#besideAnother(formId) : null;
    if (other !== null)
      seen.push({
        subject: 'form',
        subjectId: formId,
        what: { change: 'another-form', question: null, was: other },
        before: null,
        after: null,
        at: rows.at(-1)!.receivedAt,
      });
    const fresh = store.changes.keep(seen);
    const over = store.changes.over(look.takenBack);
    if (fresh.length + over.length === 0) return;
    log.info(
      { form: formId, changes: fresh.map(each => each.what.change), over: over.map(each => each.what.change) },
      'a form changed',
    );
    live.publish({ type: 'drift' });
    // What that fails for is no matter to what is delivered meanwhile: it stays held, and is told with the change.
    if (over.length > 0) await timers.run('sending what was held', () => this.parts.over(over));
  }

  /** What is told of a form already and open, and is about its questions. */
  #toldOf(formId: string): ToldChange[] {
    return this.parts.store.changes
      .openOf('form', formId)
      .filter(each => !isTraffic(each.what))
      .map(({ id, what, firstAt }) => ({ id, what: what as FormChange, since: firstAt }));
  }
}
