import type { Pins } from '@grammata/core/decode';
import type { PinsPreview } from '@grammata/contract';
import { iso } from '../clock';
import type { Decoders } from '../decoding';
import type { ClaimedArrival, Ledger } from '../ledger';
import type { LiveHub } from '../live';
import type { ArrivalRow, IntakeRow, Store } from '../store';
import type { Timers } from '../timing';
import { inBackground, type Workshop } from '../work';
import type { Bodies } from './bodies';
import { messageOf } from './reader';

/** Messages a preview looks at, the newest, as long as they are not larger together; and how many of those that change it shows. */
const MOST_LOOKED = 500;
const MOST_BYTES = 30_000_000;
const MOST_SHOWN = 40;
/** Messages fetched, and looked at, at once. */
const PORTION = 20;
/** Bytes of the largest message that is looked at beside others. */
const LARGEST = 2_000_000;

interface Parts {
  store: Store;
  decoders: Decoders;
  bodies: Bodies;
}

/** What other pins would make of the recorded messages of an intake. Nothing is changed. */
export async function previewPins(
  { store, decoders, bodies }: Parts,
  intake: IntakeRow,
  pins: Pins,
  shownId: string | null,
): Promise<PinsPreview> {
  const known = { files: store.forms.questions.filesAsked(intake.id) };
  const messageFor = (row: ArrivalRow) => ({
    ...messageOf({ ...row, body: store.arrivals.bodyOf(row.id) }, bodies),
    known,
  });
  const rows: PinsPreview['rows'] = [];
  const forms = new Set<string>();
  let [looked, changed, missing, bytes] = [0, 0, 0, 0];
  let last: ArrivalRow | undefined;
  while (looked < MOST_LOOKED && bytes < MOST_BYTES) {
    const fetched = store.arrivals.recorded(intake.id, PORTION, last);
    if (fetched.length === 0) break;
    last = fetched.at(-1);
    const portion = fetched.filter(each => !each.aside && each.size <= LARGEST);
    bytes += portion.reduce((sum, each) => sum + each.size, 0);
    const compared = await decoders.compare(portion.map(messageFor), intake.pins, pins);
    compared.forEach(({ isSame, missing: lacks, before, after, forms: found }, at) => {
      looked += 1;
      found.forEach(key => forms.add(key));
      if (!isSame) changed += 1;
      if (lacks !== null) missing += 1;
      const { id, receivedAt } = portion[at]!;
      if ((!isSame || lacks !== null) && rows.length < MOST_SHOWN)
        rows.push({ arrivalId: id, receivedAt: iso(receivedAt), before, after, missing: lacks });
    });
  }
  const asked = shownId === null ? undefined : store.arrivals.byId(shownId);
  const shown = asked?.intakeId === intake.id ? asked : undefined;
  return {
    shown: shown ? (await decoders.compare([messageFor(shown)], pins, pins))[0]!.shown : [],
    looked,
    recorded: store.arrivals.recordedCount(intake.id),
    changed,
    forms: forms.size,
    missing,
    rows,
  };
}

export interface RereadingParts extends Parts {
  ledger: Ledger;
  workshop: Workshop;
  live: LiveHub;
  timers: Timers;
}

/** Reads recorded messages anew after the pins of their intake changed, oldest first, in the background. */
export class Rereading {
  readonly #underWay = new Map<string, Promise<void>>();

  constructor(private readonly parts: RereadingParts) {}

  /** Resolves once nothing of an intake is being read anew. */
  async settled(intakeId: string): Promise<void> {
    await this.#underWay.get(intakeId);
  }

  /** Goes on with what an end of the server cut short. */
  async resume(): Promise<void> {
    const { store, ledger } = this.parts;
    for (const intake of store.intakes.all()) {
      if (intake.readingRevision === 0) continue;
      const [first] = await ledger.outdated({ intakeId: intake.id, most: 1, after: null });
      if (first) this.begin(intake);
    }
  }

  /** Reads all that was recorded with other pins; after what is read anew already. */
  begin(intake: Pick<IntakeRow, 'id'>): void {
    const { workshop, store, timers } = this.parts;
    const total = store.arrivals.recordedCount(intake.id);
    const work = workshop.start({ kind: 'reread', title: 'Reading messages again', intakeId: intake.id }, total);
    let done = 0;
    const before = this.#underWay.get(intake.id) ?? Promise.resolve();
    const all = async () => {
      const touched = new Set<string>();
      let last: string | null = null;
      for (;;) {
        const claimed: ClaimedArrival[] = await this.parts.ledger.outdated({
          intakeId: intake.id,
          most: PORTION,
          after: last,
        });
        if (claimed.length === 0 || work.isStopped) break;
        for (const arrival of claimed) {
          if (work.isStopped) break;
          last = arrival.id;
          done += 1;
          await this.#reread(arrival, touched).catch(async (error: Error) => {
            work.report(`The message of ${iso(arrival.receivedAt)} is not read again: ${error.message}`);
            await this.parts.ledger.leaveOutdated({ intakeId: intake.id, id: arrival.id });
          });
          work.at(done);
        }
      }
      // What somebody stopped stays as it was read.
      if (work.isStopped) await this.parts.ledger.leaveOutdated({ intakeId: intake.id });
      for (const form of touched) await this.parts.ledger.rebuild(form);
      work.finish(`${done} of ${total} messages were read again.`);
      this.parts.live.publish({ type: 'changed', what: 'intake', id: intake.id });
    };
    const ended = before
      .then(() => inBackground(timers, work, all, () => `at message ${done + 1}`))
      .then(() => {
        if (this.#underWay.get(intake.id) === ended) this.#underWay.delete(intake.id);
      });
    this.#underWay.set(intake.id, ended);
  }

  async #reread(arrival: ClaimedArrival, touched: Set<string>): Promise<void> {
    const { store, decoders, bodies, ledger } = this.parts;
    const { id: arrivalId, revision, pins, size } = arrival;
    const known = { files: store.forms.questions.filesAsked(arrival.intakeId) };
    const put = async (
      submissions: Parameters<Ledger['read']>[0][0]['submissions'],
      from: number,
      end: Parameters<Ledger['read']>[0][0]['end'],
    ) => {
      const [outcome] = await ledger.read([{ arrivalId, revision, isAgain: true, from, submissions, end }]);
      for (const form of outcome!.formIds) touched.add(form);
      return outcome!.isStored;
    };
    let next = 0;
    const read = await decoders.portions({ ...messageOf(arrival, bodies), known }, size, pins, {
      found: () => undefined,
      portion: async (submissions, from) => {
        next = from + submissions.length;
        return put(submissions, from, null);
      },
    });
    if (read === null) return;
    const { state, trouble, isSure, way } = read;
    await put([], next, { state, trouble, isSure, way });
  }
}
