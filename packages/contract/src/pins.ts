import { MOST_GENERATIONS, type Pins, type PinSet } from '@grammata/core/decode';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsObject,
  IsOptional,
  IsString,
  Length,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import { MayBeLeftOut } from './mayBeLeftOut';
import { IsPointer } from './isPointer';

/** Where a value stands in a running text. */
export class LandmarkInput {
  @IsString() @Length(1, 200) label: string = '';
  @IsString() @MaxLength(400) before: string = '';
  @IsString() @MaxLength(400) after: string = '';
}

export class TextPinInput {
  @IsString() @MaxLength(500) @IsPointer() at: string = '';
  @IsArray()
  @ArrayMaxSize(100)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => LandmarkInput)
  landmarks: LandmarkInput[] = [];
}

/** How bodies that state a media type are read. */
export class MediaPinInput {
  @IsOptional() @IsString() @MaxLength(200) stated: string | null = null;
  @IsString() @Length(1, 40) as: string = '';
}

/** What a person pointed at in messages that are built alike. */
export class PinSetInput implements PinSet {
  @MayBeLeftOut() @IsPointer() split?: string;
  @MayBeLeftOut() @IsPointer() answers?: string;
  @MayBeLeftOut() @IsPointer() label?: string;
  @MayBeLeftOut() @IsPointer() value?: string;
  @MayBeLeftOut() @IsPointer() key?: string;
  @MayBeLeftOut() @IsPointer() form?: string;
  @MayBeLeftOut() @IsPointer() id?: string;
  @MayBeLeftOut() @IsPointer() time?: string;
  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(200)
  @IsString({ each: true })
  @MaxLength(300, { each: true })
  files?: string[];
  @MayBeLeftOut() @ValidateNested() @Type(() => MediaPinInput) media?: MediaPinInput;
  @MayBeLeftOut() @ValidateNested() @Type(() => TextPinInput) text?: TextPinInput;
}

/** What a person pointed at to overrule the reading of an intake’s messages. */
export class PinsInput extends PinSetInput implements Pins {
  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(MOST_GENERATIONS - 1)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => PinSetInput)
  others?: PinSetInput[];
}

export class LandmarkValueInput {
  @IsString() @Length(1, 200) label: string = '';
  @IsString() @MaxLength(10000) value: string = '';
}

export class LandmarkExampleInput {
  @IsString() @MaxLength(200000) text: string = '';
  @IsArray()
  @ArrayMaxSize(100)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => LandmarkValueInput)
  values: LandmarkValueInput[] = [];
}

/** Mails with their values put right, to learn from. */
export class LearnInput {
  @IsArray()
  @ArrayMaxSize(20)
  @IsObject({ each: true })
  @ValidateNested({ each: true })
  @Type(() => LandmarkExampleInput)
  examples: LandmarkExampleInput[] = [];
}
