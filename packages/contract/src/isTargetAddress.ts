import { isURL, registerDecorator, type ValidationArguments } from 'class-validator';

const isWeb = (value: unknown) =>
  isURL(String(value), { require_tld: false, protocols: ['http', 'https'], require_protocol: true });
const isFolder = (value: unknown) => /^file:\/\/[a-z\d][a-z\d-]{0,60}$/.test(String(value));
const isMail = (value: unknown) => /^smtps?:\/\/[^\s/?#]+$/.test(String(value));

const rules: Record<string, { is: (value: unknown) => boolean; says: string }> = {
  web: { is: isWeb, says: 'Enter a URL that starts with http:// or https://.' },
  mail: { is: isMail, says: 'Enter an address such as smtp://mail.example.org:587.' },
  files: { is: isFolder, says: 'Enter a folder such as visits, in lower case.' },
};

/** Property rule: where a target is, by what it is: an address on the web, or that of a mail server. */
export function IsTargetAddress(): PropertyDecorator {
  const ruleFor = ({ object }: ValidationArguments) => {
    const { reads } = object as { reads?: unknown };
    return typeof reads === 'string' && Object.hasOwn(rules, reads) ? rules[reads]! : rules.web!;
  };
  return (target, property) =>
    registerDecorator({
      name: 'isTargetAddress',
      target: target.constructor,
      propertyName: property as string,
      validator: {
        validate: (value, asked) => typeof value === 'string' && ruleFor(asked!).is(value),
        defaultMessage: asked => ruleFor(asked!).says,
      },
    });
}
