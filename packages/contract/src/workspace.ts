import type { CheckedRoute, Compared } from '@grammata/core/workspace';

/** Files of a workspace held against what is here: what importing them would do. */
export interface ComparedView extends Compared {
  /** Why they can't be imported as they are: the file, and what is wrong with it. */
  faults: { file: string; message: string }[];
  /** Routes as they stand in the files, with those of their proofs that differ. */
  proofs: CheckedRoute[];
  /** Stands for what was compared: importing asks for it, so that what was shown is what is done. */
  mark: string;
}
