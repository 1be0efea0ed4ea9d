import { isURL, registerDecorator, type ValidationArguments } from 'class-validator';

const isWeb = (value: unknown) =>
  isURL(String(value), { require_tld: false, protocols: ['http', 'https'], require_protocol: true });
const isMail = (value: unknown) => /^smtps?:\/\/[^\s/?#]+$/.test(String(value));

/** Property rule: where a target is, by what it is: an address on the web, or that of a mail server. */
export function IsTargetAddress(): PropertyDecorator {
  const takesMail = ({ object }: ValidationArguments) => (object as { reads?: unknown }).reads === 'mail';
  return (target, property) =>
    registerDecorator({
      name: 'isTargetAddress',
      target: target.constructor,
      propertyName: property as string,
      validator: {
        validate: (value, asked) => typeof value === 'string' && (takesMail(asked!) ? isMail(value) : isWeb(value)),
        defaultMessage: asked =>
          takesMail(asked!)
            ? 'Give an address such as smtp://mail.example.org:587.'
            : 'Give an address that starts with http:// or https://.',
      },
    });
}
