import { FunctionExpressionType, JSONPathEnvironment, type FilterFunction, type JSONPathQuery } from 'json-p3';
import { RE2JS } from 're2js';
import type { Json } from '../../submission';
import { remembered } from '../remembered';

/** RFC 9485 says that a dot is anything but a line end; outside a class of characters it is written out. */
function asRe2(pattern: string): string {
  let written = '';
  let isInClass = false;
  for (let at = 0; at < pattern.length; at++) {
    const mark = pattern[at]!;
    if (mark === '\\') written += mark + (pattern[++at] ?? '');
    else if (mark === '.' && !isInClass) written += '[^\\n\\r]';
    else {
      isInClass = mark === '[' || (isInClass && mark !== ']');
      written += mark;
    }
  }
  return written;
}

const compiled = remembered(
  (pattern: string) => pattern,
  pattern => {
    try {
      return { pattern: RE2JS.compile(asRe2(pattern)) };
    } catch {
      return { pattern: null };
    }
  },
);

/** `match` and `search` of RFC 9535 on an engine whose time grows with the text alone. */
const byPattern = (isWhole: boolean): FilterFunction => ({
  argTypes: [FunctionExpressionType.ValueType, FunctionExpressionType.ValueType],
  returnType: FunctionExpressionType.LogicalType,
  call(text: unknown, pattern: unknown): boolean {
    if (typeof text !== 'string' || typeof pattern !== 'string') return false;
    const matcher = compiled(pattern).pattern?.matcher(text);
    return (isWhole ? matcher?.matches() : matcher?.find()) ?? false;
  },
});

const environment = new JSONPathEnvironment({ strict: true, maxRecursionDepth: 200 });
environment.functionRegister.set('match', byPattern(true));
environment.functionRegister.set('search', byPattern(false));

const queryOf = remembered(
  (path: string) => path,
  (path): JSONPathQuery | string => {
    try {
      return environment.compile(path);
    } catch (error) {
      return (error as Error).message;
    }
  },
);

/** What a JSONPath (RFC 9535) finds, in its order; a text that says why when it is no path or goes too deep. */
export function queryPath(path: string, value: Json): Json[] | string {
  const query = queryOf(path);
  if (typeof query === 'string') return query;
  try {
    return query.query(value as Parameters<typeof query.query>[0]).values() as Json[];
  } catch (error) {
    return (error as Error).message;
  }
}
