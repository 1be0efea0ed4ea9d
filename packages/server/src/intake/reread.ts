import type { Pins } from '@grammata/core/decode';
import type { PinsPreview } from '@grammata/contract';
import { iso } from '../clock';
import type { Decoders } from '../decoding';
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
    const compared = await decoders.compare(
      portion.map(each => ({ ...messageOf(each, bodies), known })),
      intake.pins,
      pins,
    );
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
    shown: shown ? (await decoders.compare([{ ...messageOf(shown, bodies), known }], pins, pins))[0]!.shown : [],
    looked,
    recorded: store.arrivals.recordedCount(intake.id),
    changed,
    forms: forms.size,
    missing,
    rows,
  };
}

/** Reads all recorded messages of an intake anew, in the background. */
export function rereadAll(
  { store, workshop, live, bodies, decoders, timers }: Parts & { workshop: Workshop; live: LiveHub; timers: Timers },
  intake: IntakeRow,
): void {
  const total = store.arrivals.recordedCount(intake.id);
  const work = workshop.start({ kind: 'reread', title: 'Reading what was recorded anew', intakeId: intake.id }, total);
  const touched = new Set<string>();
  const turn = () => timers.turn();
  let done = 0;
  const all = async () => {
    let last: ArrivalRow | undefined;
    for (;;) {
      const [arrival] = store.arrivals.recorded(intake.id, 1, last);
      if (!arrival || work.isStopped) break;
      last = arrival;
      done += 1;
      const { pins } = store.intakes.byId(intake.id) ?? intake;
      try {
        const known = { files: store.forms.questions.filesAsked(intake.id) };
        const reading = await decoders.whole({ ...messageOf(arrival, bodies), known }, arrival.size, pins);
        for (const form of store.readings.reread(arrival, reading)) touched.add(form);
      } catch (error) {
        work.report(`The message of ${iso(arrival.receivedAt)} stays as it was read: ${(error as Error).message}`);
      }
      work.at(done);
      await turn();
    }
    for (const form of touched) await store.forms.rebuild(form, turn);
    work.finish(`${done} of ${total} messages were read anew.`);
    live.publish({ type: 'changed', what: 'intake', id: intake.id });
  };
  inBackground(timers, work, all, () => `at message ${done + 1}`);
}
