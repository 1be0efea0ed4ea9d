import jsonata from 'jsonata';
import { RE2JS } from 're2js';
import type { Json } from '../../submission';

/** What one evaluation may cost: steps of evaluation, items of a list, characters of a text, calls inside calls. */
export const bounds = { steps: 50_000, items: 10_000, characters: 100_000, depth: 200 };

/** What would give something else when the same submission is sent again, or escapes the bounds. */
const forbidden = ['now', 'millis', 'random', 'shuffle', 'eval'];

interface Node {
  type: string;
  value?: unknown;
  lhs?: Node;
  rhs?: Node;
}

class Exceeded extends Error {}

/** A regular expression on an engine whose time grows with the text alone, as JSONata uses one. */
class LinearRegExp {
  lastIndex = 0;
  private readonly pattern: RE2JS;

  constructor(source: RegExp) {
    const flags = (source.ignoreCase ? RE2JS.CASE_INSENSITIVE : 0) | (source.multiline ? RE2JS.MULTILINE : 0);
    this.pattern = RE2JS.compile(source.source, flags);
  }

  exec(text: string): (string[] & { index: number }) | null {
    const matcher = this.pattern.matcher(text);
    if (!matcher.find(this.lastIndex)) {
      this.lastIndex = 0;
      return null;
    }
    const groups = Array.from({ length: matcher.groupCount() + 1 }, (_, index) => matcher.group(index) ?? '');
    this.lastIndex = matcher.end();
    return Object.assign(groups, { index: matcher.start() });
  }
}

export interface Expression {
  /** The result, blank for none. Throws an Error with words for people. */
  run(input: Json, answers: (key: string) => Json): Json;
}

/**
 * Compiles a JSONata expression (its reference implementation, synchronous edition). It is bounded where it runs and
 * not by a clock, so that a rehearsal and a delivery always say the same. Throws an Error that says what is wrong.
 */
export function compileExpression(source: string): Expression {
  // The types of the package do not know its second parameter.
  const expression = (jsonata as (source: string, options: object) => jsonata.Expression)(source, {
    RegexEngine: LinearRegExp,
  });
  return {
    run(input, answers) {
      let [steps, depth] = [0, 0];
      const rangeStarts = new Map<Node, number>();
      const ranges = new Map<Node, Node>();
      expression.assign('__evaluate_entry', (node: Node) => {
        steps += 1;
        depth += 1;
        if (steps > bounds.steps) throw new Exceeded(`it takes more than ${bounds.steps} steps`);
        if (depth > bounds.depth) throw new Exceeded(`it goes more than ${bounds.depth} calls deep`);
        if (node.type === 'binary' && node.value === '..' && node.lhs && node.rhs) ranges.set(node.rhs, node.lhs);
      });
      expression.assign('__evaluate_exit', (node: Node, _input: unknown, _frame: unknown, result: unknown) => {
        depth -= 1;
        if (typeof result === 'number') {
          rangeStarts.set(node, result);
          const start = ranges.get(node);
          if (start && result - (rangeStarts.get(start) ?? 0) > bounds.items)
            throw new Exceeded(`it makes a list of more than ${bounds.items} items`);
        }
        if (Array.isArray(result) && result.length > bounds.items)
          throw new Exceeded(`it makes a list of more than ${bounds.items} items`);
        if (typeof result === 'string' && result.length > bounds.characters)
          throw new Exceeded(`it makes a text of more than ${bounds.characters} characters`);
      });
      for (const name of forbidden)
        expression.registerFunction(name, () => {
          throw new Exceeded(`$${name} is not allowed: it would not give the same again`);
        });
      expression.registerFunction('pad', padded, '<s-ns?:s>');
      expression.registerFunction('answer', (key: string) => answers(key), '<s:x>');
      const result: unknown = expression.evaluate(input);
      return result === undefined ? '' : (JSON.parse(JSON.stringify(result) ?? '""') as Json);
    },
  };
}

/** `$pad` of JSONata, up to the bound. */
function padded(text: string, width: number, mark = ' '): string {
  if (Math.abs(width) > bounds.characters) throw new Exceeded(`it pads to more than ${bounds.characters} characters`);
  return width < 0 ? text.padStart(-width, mark || ' ') : text.padEnd(width, mark || ' ');
}
