import { registerDecorator } from 'class-validator';

/** Property rule: a JSON Pointer (RFC 6901 §3) of at most 1,000 characters. */
export function IsPointer(): PropertyDecorator {
  return (target, property) =>
    registerDecorator({
      name: 'isPointer',
      target: target.constructor,
      propertyName: property as string,
      validator: {
        validate: value => typeof value === 'string' && value.length <= 1000 && /^(\/([^~]|~[01])*)?$/.test(value),
        defaultMessage: () => 'Enter a JSON Pointer: empty, or starting with “/”.',
      },
    });
}
