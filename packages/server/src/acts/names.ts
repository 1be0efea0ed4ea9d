import { fieldFault } from '../problems';

const same = (a: string, b: string) => a.trim() === b.trim();

/** Names tell things apart, in files too. Throws HttpProblem where another thing of the kind has this one. */
export function mustBeFree(name: string, what: 'route' | 'target' | 'intake', others: readonly string[]): void {
  if (others.some(each => same(each, name))) throw fieldFault('name', `Another ${what} has this name. Choose another.`);
}

/** A name, with a number behind it where another thing of the kind has it. */
export function freeName(name: string, others: readonly string[]): string {
  const taken = new Set(others.map(each => each.trim()));
  let free = name;
  for (let number = 2; taken.has(free.trim()); number++) free = `${name} ${number}`;
  return free;
}
