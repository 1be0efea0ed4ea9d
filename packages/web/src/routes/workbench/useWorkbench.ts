import { createContext, use, type Context } from 'react';
import type { Part, Parts } from './workbench';

const nothing = <Of>(): Context<Of | null> => createContext<Of | null>(null);

/** A context for each part: who reads some of them is rendered when one of these changed, and not otherwise. */
export const contexts: { [Name in Part]: Context<Parts[Name] | null> } = {
  route: nothing(),
  editing: nothing(),
  call: nothing(),
  walk: nothing(),
  offers: nothing(),
  rehearsed: nothing(),
};

type Together<Names extends Part> = (Names extends Part ? (parts: Parts[Names]) => void : never) extends (
  parts: infer All,
) => void
  ? All
  : never;

/** What is known of the route that is open, as far as these parts of it go. */
export function useWorkbench<const Names extends Part>(...names: Names[]): Together<Names> {
  const together = {};
  for (const name of names) {
    const part = use(contexts[name] as Context<object | null>);
    if (part === null) throw new Error('No route is open here.');
    Object.assign(together, part);
  }
  return together as Together<Names>;
}
