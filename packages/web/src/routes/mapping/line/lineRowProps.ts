import type { RefusalView } from '@grammata/contract';
import type { LineProposal } from '@grammata/core/match';
import type { LineFare } from '@grammata/core/rehearse';
import type { CompiledLine, Outcome } from '@grammata/core/request';
import type { Scope } from '@grammata/core/scope';
import type { EditLine } from './editLine';
import type { Fate } from './LineSamples';

/** Number, field, bar, source with its cleaning, and value. */
export const lineColumns =
  'grid-cols-[26px_minmax(0,1fr)_70px] md:grid-cols-[26px_148px_62px_minmax(0,1.1fr)_minmax(0,1fr)] xl:grid-cols-[26px_148px_62px_300px_minmax(0,1fr)]';

/** What can be done to the lines that are shown, each by its identifier. It stays the same, whatever is edited. */
export interface LineDeeds {
  open(id: string, is: boolean): void;
  /** Lists the submissions behind a bar, or none. */
  showFate(id: string, fate: Fate | null): void;
  edit(id: string): EditLine;
  /** Takes what is proposed for it. */
  take(id: string): void;
  remove(id: string): void;
  /** Moves a loose line to a field of the target. */
  moveTo(id: string, key: string): void;
}

/** What a line of the galley shows. A line of which nothing of this changed is not rendered. */
export interface LineRowProps {
  compiled: CompiledLine;
  index: number;
  /** What it gives for the sample at hand; null where there is none. */
  outcome: Outcome | null;
  /** What could fill it, while nothing does. */
  proposal: LineProposal | null;
  /** How it fares over all samples that go; null while that is not known. */
  fare: LineFare | null;
  isOpen: boolean;
  /** Which submissions behind its bar are listed. */
  fate: Fate | null;
  showNotes: boolean;
  /** What the target had against the value for this sample, when it was really sent. */
  refusal: RefusalView | null;
  /** Of the sample at hand. */
  scope: Scope | null;
  timeZone: string;
  /** True where a record that is found is changed. */
  changesRecords: boolean;
  deeds: LineDeeds;
}
