import { conditionFault } from '@grammata/core/condition';
import { registerDecorator, type ValidationArguments } from 'class-validator';

/** Property rule: which submissions go, as groups of tests. */
export function IsCondition(): PropertyDecorator {
  return (target, property) =>
    registerDecorator({
      name: 'isCondition',
      target: target.constructor,
      propertyName: property as string,
      validator: {
        validate: value => conditionFault(value) === null,
        defaultMessage: ({ value }: ValidationArguments) => `Invalid condition: ${conditionFault(value)}.`,
      },
    });
}
