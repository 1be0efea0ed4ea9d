import type { Submission } from '@grammata/core/submission';
import { IsBoolean, IsIn, IsObject, IsString, Length, MaxLength } from 'class-validator';
import { MayBeLeftOut } from './mayBeLeftOut';

/** new: seen, nobody has said what to do with it. ignored: kept, but never delivered and out of the way. */
export const formStates = ['new', 'adopted', 'ignored'] as const;
export type FormState = (typeof formStates)[number];

/** A name for a question; empty, it has its own again. */
export class QuestionInput {
  @IsString() @Length(1, 300) key: string = '';
  @IsString() @MaxLength(300, { message: 'Enter a name of up to 300 characters.' }) name: string = '';
}

export class FormInput {
  @MayBeLeftOut() @IsIn(formStates) state?: FormState;
  /** Empty, it has the name again that its builder gave it. */
  @MayBeLeftOut()
  @IsString()
  @MaxLength(120, { message: 'Enter a name of up to 120 characters.' })
  name?: string;
  /** The form of the same intake that it is the same as, in another generation; empty, it is one of its own again. */
  @MayBeLeftOut() @IsString() @MaxLength(60) sameAs?: string;
}

/** A name for a recorded sample, and whether it outlives the intake’s keeping time. */
export class SampleInput {
  @MayBeLeftOut() @IsString() @MaxLength(120) name?: string;
  @MayBeLeftOut() @IsBoolean() kept?: boolean;
}

/** A sample made out of another. */
export class VariantInput {
  @IsString() @Length(1, 120, { message: 'Enter a name of up to 120 characters.' }) name: string = '';
  @IsObject() submission: Submission = {
    form: null,
    id: null,
    submittedAt: null,
    fields: [],
    files: [],
    questions: [],
    meta: {},
  };
}
