import { IsInt, Max, Min } from 'class-validator';

/** Property rule: a whole number within bounds, refused in words that people can act on; `otherwise` says what else may be given. */
export function Whole(least: number, most: number, otherwise = ''): PropertyDecorator {
  const message = `Enter a whole number from ${least} to ${most.toLocaleString('en-GB')}${otherwise}.`;
  const rules = [IsInt({ message }), Min(least, { message }), Max(most, { message })];
  return (target, property) => rules.forEach(rule => rule(target, property as string));
}
