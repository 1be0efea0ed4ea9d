import { compareSides, type Comparing, type Side } from '@grammata/core/drift';

export interface Question {
  number: number;
  before: Side;
  after: Side;
}
export type Answer = { number: number } & ({ compared: Comparing } | { fault: string });

self.onmessage = ({ data: { number, before, after } }: MessageEvent<Question>) => {
  try {
    self.postMessage({ number, compared: compareSides(before, after) } satisfies Answer);
  } catch (error) {
    self.postMessage({ number, fault: (error as Error).message } satisfies Answer);
  }
};
