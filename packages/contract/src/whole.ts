import { IsInt, Max, Min } from 'class-validator';

/** Property rule: a whole number within bounds, refused in words that people can act on. */
export function Whole(least: number, most: number): PropertyDecorator {
  const message = `Give a whole number from ${least} to ${most.toLocaleString('en-GB')}.`;
  const rules = [IsInt({ message }), Min(least, { message }), Max(most, { message })];
  return (target, property) => rules.forEach(rule => rule(target, property as string));
}
