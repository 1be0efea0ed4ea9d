import { withValueAt, type Json, type Submission } from '../submission';
import { writable, type BodyKind, type Operation, type TargetField } from '../target';
import { Problem, type TransformContext } from '../transform';
import { compileLine, type CompiledLine, type Outcome } from './evaluate';
import { fieldsOf, type Call } from './line';
import { contentType, headerText, pathWith, type Parameter } from './parameters';

/** A request as data: what is rehearsed is what is sent. Credentials are no part of it; they are put on as it leaves. */
export interface RequestPlan {
  method: Operation['method'];
  url: string;
  headers: [name: string, value: string][];
  body: Json;
  /** How the body is written. */
  encoding: BodyKind;
  /** Which line a value of the body came from, by JSON Pointer. */
  origins: Record<string, string>;
}

/** What a call makes of one submission: the request, or what stops it. */
export interface Planned {
  outcomes: Outcome[];
  /** Required fields of the target that no line fills. */
  missing: TargetField[];
  /** The request as far as it can be made, for people to look at. */
  request: RequestPlan;
  /** True when the request may go. */
  sendable: boolean;
}

export interface CompiledCall {
  operation: Operation;
  lines: CompiledLine[];
  missing: TargetField[];
  plan(submission: Submission, context?: TransformContext): Planned;
}

/** Required fields of the target that no line of the call fills. */
export function missingFrom(call: Call, operation: Operation): TargetField[] {
  const filled = new Set(call.lines.filter(line => line.source !== null).map(line => line.to));
  return writable(operation).filter(field => field.required && !filled.has(field.key));
}

/** The keys that the lines of a call draw on. */
export const usedBy = (call: Call): Set<string> => new Set(call.lines.flatMap(line => fieldsOf(line.source)));

/**
 * Compiles a call against its operation. `baseUrl` is the target's address without a slash at its end. Of `before`, an
 * earlier state of the same call, the lines that did not change are taken over.
 */
export function compileCall(call: Call, operation: Operation, baseUrl: string, before?: CompiledCall): CompiledCall {
  const fields = new Map(operation.fields.map(field => [field.key, field]));
  const known = new Map(before?.lines.map(each => [each.line, each]));
  const used = usedBy(call);
  const lines = call.lines.map(line => {
    const field = fields.get(line.to) ?? null;
    const same = known.get(line);
    return same && same.field === field && line.source?.from !== 'rest' ? same : compileLine(line, field, used);
  });
  const missing = missingFrom(call, operation);
  const encoding = operation.body ?? (operation.method === 'GET' || operation.method === 'DELETE' ? 'none' : 'json');
  const active = lines.map(each => each.line.source !== null);
  return {
    operation,
    lines,
    missing,
    plan(submission, context) {
      const outcomes = lines.map((line, index) => (active[index] ? line.outcome(submission, context) : unfilled));
      let body: Json = {};
      const origins: Record<string, string> = {};
      const parameters: Parameter[] = [];
      outcomes.forEach(({ value }, index) => {
        const { field, line } = lines[index]!;
        if (value === undefined || !field) return;
        if (field.in) parameters.push({ in: field.in, name: field.pointer, value });
        else {
          body = withValueAt(body, field.pointer, value);
          origins[field.pointer] = line.id;
        }
      });
      const request: RequestPlan = {
        method: operation.method,
        url: baseUrl.replace(/\/$/, '') + pathWith(operation.path, parameters),
        headers: [
          ...contentType(encoding),
          ['accept', 'application/json'],
          ...parameters
            .filter(each => each.in === 'header')
            .map(each => [each.name, headerText(each.value)] as [string, string]),
        ],
        body,
        encoding,
        origins,
      };
      return { outcomes, missing, request, sendable: missing.length === 0 && outcomes.every(each => !each.stops) };
    },
  };
}

const unfilled: Outcome = { state: 'blank', value: undefined, problem: null, stops: false };

/** Everything that keeps a planned request from going, in words. */
export function stoppers({ outcomes, missing }: Planned): Problem[] {
  const unmapped = missing.map(
    field => new Problem('line.unmapped', `${field.key} is required, and no line fills it.`, null),
  );
  return [...unmapped, ...outcomes.flatMap(each => (each.stops && each.problem ? [each.problem] : []))];
}
