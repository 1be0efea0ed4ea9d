import { isIP, registerDecorator, type ValidationOptions } from 'class-validator';

/** `192.0.2.7`, `192.0.2.0/24`, `2001:db8::/32`. */
function isAddressRange(value: unknown): boolean {
  if (typeof value !== 'string') return false;
  const [address = '', bits, ...rest] = value.split('/');
  if (!isIP(address) || rest.length > 0) return false;
  return bits === undefined || (/^\d{1,3}$/.test(bits) && Number(bits) <= (address.includes(':') ? 128 : 32));
}

/** Property rule: an IP address or a range of them in CIDR notation (RFC 4632). */
export function IsAddressRange(options?: ValidationOptions): PropertyDecorator {
  return (target, property) =>
    registerDecorator({
      name: 'isAddressRange',
      target: target.constructor,
      propertyName: property as string,
      options,
      validator: {
        validate: isAddressRange,
        defaultMessage: () => 'Enter addresses such as 192.0.2.7 or ranges such as 192.0.2.0/24.',
      },
    });
}
