import jsonata from 'jsonata';
import { RE2JS } from 're2js';
import type { Json } from '../../submission';

/**
 * What one evaluation may cost: steps of evaluation, items of a list, characters of a text, calls inside calls, and all
 * characters and items together that its functions and operators make or look through.
 */
export const bounds = { steps: 50_000, items: 10_000, characters: 100_000, depth: 200, made: 600_000 };

/** What would give something else when the same submission is sent again, or escapes the bounds. */
const forbidden = ['now', 'millis', 'random', 'shuffle', 'eval'];

interface Node {
  type: string;
  value?: unknown;
  lhs?: Node;
  rhs?: Node;
}

class Exceeded extends Error {}

/** What the evaluation under way has made so far. One runs at a time: none of them waits for anything. */
let made = 0;

function spend(amount: number): void {
  made += amount;
  if (made > bounds.made) throw new Exceeded(`it makes more than ${bounds.made} characters and items on its way`);
}

/** Nodes that give back what is there already, and make nothing. */
const giving = new Set([
  'variable',
  'name',
  'string',
  'number',
  'value',
  'regex',
  'condition',
  'block',
  'bind',
  'lambda',
]);

/** A regular expression on an engine whose time grows with the text alone, as JSONata uses one. */
class LinearRegExp {
  lastIndex = 0;
  private readonly pattern: RE2JS;
  /** The text that was searched last, and its matcher: making one takes time by the whole text. */
  private searched: { text: string; matcher: ReturnType<RE2JS['matcher']> } | null = null;

  constructor(source: RegExp) {
    const flags = (source.ignoreCase ? RE2JS.CASE_INSENSITIVE : 0) | (source.multiline ? RE2JS.MULTILINE : 0);
    this.pattern = RE2JS.compile(source.source, flags);
  }

  exec(text: string): (string[] & { index: number }) | null {
    if (this.searched?.text !== text) {
      spend(text.length);
      this.searched = { text, matcher: this.pattern.matcher(text) };
    }
    const { matcher } = this.searched;
    const from = this.lastIndex;
    if (from > text.length || !matcher.find(from)) {
      spend(Math.max(0, text.length - from));
      this.lastIndex = 0;
      return null;
    }
    spend(matcher.end() - from + 1);
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
      made = 0;
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
        if (!giving.has(node.type)) {
          if (typeof result === 'string') spend(result.length);
          else if (Array.isArray(result)) spend(result.length);
        }
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
      expression.registerFunction('distinct', distinct, '<x:x>');
      expression.registerFunction('answer', (key: string) => answers(key), '<s:x>');
      const result: unknown = expression.evaluate(input);
      return result === undefined ? '' : (JSON.parse(JSON.stringify(result) ?? '""') as Json);
    },
  };
}

/** `$distinct` of JSONata in time by the length of the list. */
function distinct(list: unknown): unknown {
  if (!Array.isArray(list)) return list;
  const seen = new Set<string>();
  const kept = list.filter(each => {
    const written = JSON.stringify(each);
    return !seen.has(written) && seen.add(written);
  });
  return Object.assign(kept, { sequence: true });
}

/** `$pad` of JSONata, up to the bound. */
function padded(text: string, width: number, mark = ' '): string {
  if (!(Math.abs(width) <= bounds.characters))
    throw new Exceeded(`it pads to more than ${bounds.characters} characters`);
  return width < 0 ? text.padStart(-width, mark || ' ') : text.padEnd(width, mark || ' ');
}
