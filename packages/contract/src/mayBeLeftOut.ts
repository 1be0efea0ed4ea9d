import { ValidateIf } from 'class-validator';

/** Property rule: it need not be there. Unlike with IsOptional, null is not the same as left out. */
export const MayBeLeftOut = (): PropertyDecorator => ValidateIf((_, value) => value !== undefined);
