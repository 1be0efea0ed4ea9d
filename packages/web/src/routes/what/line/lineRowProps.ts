import type { RefusalView } from '@grammata/contract';
import type { LineProposal } from '@grammata/core/match';
import type { CompiledLine, Outcome } from '@grammata/core/request';
import type { Workbench } from '../../workbench';
import type { EditLine } from './editLine';
import type { Fate } from './LineSamples';

/** What a line of the galley shows, and what can be done to it. */
export interface LineRowProps {
  workbench: Workbench;
  compiled: CompiledLine;
  index: number;
  outcome: Outcome | null;
  /** What could fill it, while nothing does. */
  proposal: LineProposal | null;
  isOpen: boolean;
  onOpen: (is: boolean) => void;
  /** Which submissions behind its bar are listed. */
  fate: Fate | null;
  onFate: (fate: Fate | null) => void;
  edit: EditLine;
  onTake: () => void;
  onRemove: () => void;
  /** Moves a loose line to a field of the target. */
  onMoveTo: (key: string) => void;
  showNotes: boolean;
  /** What the target had against the value for this sample, when it was really sent. */
  refusal: RefusalView | null;
}
