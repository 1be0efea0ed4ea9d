import type { Move } from '@grammata/core/rehome';
import { IsIn, IsInt, IsObject, IsString, MaxLength, Min } from 'class-validator';

/** What a route is to hang on instead. */
export class RehomeInput {
  @IsIn(['form', 'target']) what: 'form' | 'target' = 'form';
  /** Of a target: the one that it goes to. */
  @IsString() @MaxLength(60) was: string = '';
  /** The form or target that it is to hang on. */
  @IsString() @MaxLength(60) now: string = '';
  /** Chosen instead of what is proposed: questions by the keys of questions, operations by the identifiers of calls; `''` for none. */
  @IsObject() chosen: Record<string, string> = {};
  /** The revision of the draft that it was shown for; left out to be shown it. */
  @IsInt() @Min(-1) revision: number = -1;
}

/** A route as it would hang on another form or target, and how it fares. */
export interface RehomeView {
  moves: Move[];
  /** The revision of the draft that it was made of. */
  revision: number;
  /** What can be chosen: questions of the other form, or operations of the other target. */
  offered: { key: string; label: string }[];
  /** The newest submissions of the form that it would hang on, those that could not be sent, and why. */
  samples: { looked: number; held: number; reasons: string[] };
  proofs: number;
}
