import { isUnpinned, type Pins } from '@grammata/core/decode';
import type { PinsPreview, ReadingSummary } from '@grammata/contract';
import { asText, type Submission } from '@grammata/core/submission';
import { iso } from '../clock';
import type { LiveHub } from '../live';
import type { ArrivalRow, IntakeRow, Store } from '../store';
import type { Workshop } from '../work';
import type { Bodies } from './bodies';
import { decodeArrival, decodeStored, readingOf } from './reading';

/** Messages a preview looks at, the newest, and how many of those that change it shows. */
const MOST_LOOKED = 500;
const MOST_SHOWN = 40;
const ANSWERS_SHOWN = 6;
/** Messages read anew before others get their turn. */
const PORTION = 20;

const summaryOf = (submissions: Submission[]): ReadingSummary => ({
  submissions: submissions.length,
  form: submissions[0]?.form ? (submissions[0].form.name ?? submissions[0].form.key) : null,
  answers: (submissions[0]?.fields ?? [])
    .slice(0, ANSWERS_SHOWN)
    .map(({ label, value }) => ({ label, value: asText(value).slice(0, 120) })),
});

/** What other pins would make of the recorded messages of an intake. Nothing is changed. */
export function previewPins(store: Store, intake: IntakeRow, pins: Pins, shownId: string | null): PinsPreview {
  const rows: PinsPreview['rows'] = [];
  let changed = 0;
  let missing = 0;
  const forms = new Set<string>();
  const looked = store.arrivals.recorded(intake.id, MOST_LOOKED).filter(each => !each.aside);
  for (const arrival of looked) {
    const before = readingOf(decodeArrival(arrival, intake.pins)).submissions;
    const decoded = decodeArrival(arrival, pins);
    const after = readingOf(decoded).submissions;
    for (const { form } of after) forms.add(form?.key ?? '');
    const isSame = JSON.stringify(before) === JSON.stringify(after);
    const lacks = isUnpinned(pins) ? null : (decoded.notes.find(note => note.code === 'pins.missing')?.message ?? null);
    if (!isSame) changed += 1;
    if (lacks !== null) missing += 1;
    if ((!isSame || lacks !== null) && rows.length < MOST_SHOWN)
      rows.push({
        arrivalId: arrival.id,
        receivedAt: iso(arrival.receivedAt),
        before: summaryOf(before),
        after: summaryOf(after),
        missing: lacks,
      });
  }
  const shown = shownId === null ? undefined : store.arrivals.byId(shownId);
  return {
    shown: shown?.intakeId === intake.id ? readingOf(decodeArrival(shown, pins)).submissions.slice(0, 50) : [],
    looked: looked.length,
    recorded: store.arrivals.recordedCount(intake.id),
    changed,
    forms: forms.size,
    missing,
    rows,
  };
}

/** Reads all recorded messages of an intake anew, in the background. */
export function rereadAll(
  { store, workshop, live, bodies }: { store: Store; workshop: Workshop; live: LiveHub; bodies: Bodies },
  intake: IntakeRow,
): void {
  const total = store.arrivals.recordedCount(intake.id);
  const work = workshop.start({ kind: 'reread', title: 'Reading what was recorded anew', intakeId: intake.id }, total);
  const touched = new Set<string>();
  let last: ArrivalRow | undefined;
  let done = 0;
  const portion = async () => {
    try {
      const rows = store.arrivals.recorded(intake.id, PORTION, last);
      const { pins } = store.intakes.byId(intake.id) ?? intake;
      for (const arrival of rows) {
        done += 1;
        const decoded = await decodeStored(arrival, pins, bodies);
        if (decoded === null) {
          work.report(`The message of ${iso(arrival.receivedAt)} is too large to be read anew.`);
          continue;
        }
        for (const form of store.arrivals.reread(arrival, readingOf(decoded))) touched.add(form);
      }
      last = rows.at(-1) ?? last;
      work.at(done);
      if (rows.length > 0 && !work.isStopped) return void setImmediate(() => void portion());
      for (const form of touched) store.forms.rebuild(form);
      work.finish(`${done} of ${total} messages were read anew.`);
      live.publish({ type: 'changed', what: 'intake', id: intake.id });
    } catch (error) {
      work.fail(`It stopped at message ${done + 1}: ${(error as Error).message}`);
    }
  };
  setImmediate(() => void portion());
}
