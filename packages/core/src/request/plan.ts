import type { Scope } from '../scope';
import { compilePlace, isFile, type FileValue, type Json } from '../submission';
import { writable, type BodyKind, type Operation, type TargetField } from '../target';
import { Problem, type TransformContext } from '../transform';
import { compileLine, type CompiledLine, type Outcome } from './evaluate';
import { fieldsOf, type Call, type Line } from '../route';
import { addressFault, contentType, headerText, pathWith, type Parameter } from './parameters';

/** A request as data: what is rehearsed is what is sent. Credentials are no part of it; they are put on as it leaves. */
export interface RequestPlan {
  method: Operation['method'];
  url: string;
  headers: [name: string, value: string][];
  body: Json;
  /** How the body is written. */
  encoding: BodyKind;
  /** Name of the outermost element in XML. */
  root?: string;
  /** Which line a value of the body came from, by JSON Pointer. */
  origins: Record<string, string>;
  /** Files whose content goes along; put in as it leaves. */
  files: PlannedFile[];
}

/** A file of a request. In the body its name stands where it goes. */
export interface PlannedFile {
  /** JSON Pointer into the body. */
  pointer: string;
  lineId: string;
  /** The file's name, safe to be used as one. */
  name: string;
  /** The file as the answer holds it. */
  file: FileValue;
  /** As a part or the whole of the body, or as text in base64. */
  as: 'content' | 'base64';
  /** What is done where it can't be had: the request waits for people, or goes without it. */
  whenLost: 'stop' | 'leaveOut';
}

/** What a call makes of one scope: the request, or what stops it. */
export interface Planned {
  outcomes: Outcome[];
  /** Required fields of the target that no line fills. */
  missing: TargetField[];
  /** What keeps the request from the address that its values make; null where nothing does. */
  address: Problem | null;
  /** The request as far as it can be made, for people to look at. */
  request: RequestPlan;
  /** True when the request may go. */
  sendable: boolean;
}

export interface CompiledCall {
  operation: Operation;
  lines: CompiledLine[];
  missing: TargetField[];
  plan(scope: Scope, context?: TransformContext): Planned;
}

/** Required fields of the target that no line of the call fills. */
export function missingFrom(call: Call, operation: Operation): TargetField[] {
  const filled = new Set(call.lines.filter(line => line.source !== null).map(line => line.to));
  return writable(operation).filter(field => field.required && field.fixed === undefined && !filled.has(field.key));
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
  const places = lines.map(({ field }) => (field && !field.in ? compilePlace(field.pointer) : null));
  const always = operation.fields.filter(field => field.fixed !== undefined && !field.readOnly);
  const putFixed = always.map(field => (field.in ? null : compilePlace(field.pointer)));
  return {
    operation,
    lines,
    missing,
    plan(scope, context) {
      const outcomes = lines.map((line, index) => (active[index] ? line.outcome(scope, context) : unfilled));
      let body: Json = operation.graphql === undefined ? {} : { query: operation.graphql, variables: {} };
      const origins: Record<string, string> = {};
      const parameters: Parameter[] = [];
      const files: PlannedFile[] = [];
      const filled = new Set(outcomes.flatMap(({ value }, index) => (value === undefined ? [] : lines[index]!.field)));
      always.forEach((field, index) => {
        if (filled.has(field)) return;
        if (field.in) parameters.push({ in: field.in, name: field.pointer, value: field.fixed! });
        else body = putFixed[index]!(body, field.fixed!);
      });
      outcomes.forEach(({ value }, index) => {
        const { field, line } = lines[index]!;
        if (value === undefined || !field) return;
        if (field.in) {
          parameters.push({ in: field.in, name: field.pointer, value });
          return;
        }
        const own = field.type === 'file' || field.type === 'base64' ? filesIn(field, line, value) : [];
        files.push(...own);
        body = places[index]!(body, own.length > 0 ? namesOf(own) : value);
        origins[field.pointer] = line.id;
      });
      const request: RequestPlan = {
        method: operation.method,
        url:
          baseUrl.replace(/\/$/, '') +
          (operation.path.startsWith('/') ? '' : '/') +
          pathWith(operation.path, parameters),
        headers: [
          ...contentType(encoding),
          ['accept', operation.graphql === undefined ? 'application/json' : graphqlTypes],
          ...parameters
            .filter(each => each.in === 'header')
            .map(each => [each.name, headerText(each.value)] as [string, string]),
        ],
        body,
        encoding,
        ...(operation.root && { root: operation.root }),
        origins,
        files,
      };
      const address = addressFault(operation.path, parameters);
      const sendable = missing.length === 0 && address === null && outcomes.every(each => !each.stops);
      return { outcomes, missing, address, request, sendable };
    },
  };
}

/** Media types of GraphQL’s answers over HTTP. *GraphQL over HTTP, draft; from memory.* */
const graphqlTypes = 'application/graphql-response+json, application/json;q=0.9';

/** The files of a field; several only where the body has a part for each. */
function filesIn({ pointer, type }: TargetField, { id: lineId, whenProblem }: Line, value: Json): PlannedFile[] {
  const whenLost = whenProblem === 'stop' ? 'stop' : 'leaveOut';
  const as = type === 'base64' ? 'base64' : 'content';
  return (Array.isArray(value) ? value : [value])
    .filter(isFile)
    .map(file => ({ pointer, lineId, name: safeFileName(file.name), file, as, whenLost }));
}

/** Stands for a file's content wherever a request is shown. */
export const standIn = (name: string): string => `‹${name}›`;

/** What stands in a body for its files until their content does. */
export const namesOf = (files: readonly PlannedFile[]): Json =>
  files.length === 1 ? standIn(files[0]!.name) : files.map(each => standIn(each.name));

/** A file's name without folders and control characters, so that it can't reach anywhere it should not. */
export const safeFileName = (name: string): string =>
  name
    .replace(/^.*[/\\]/, '')
    .replace(/[\p{Cc}\p{Bidi_Control}"]/gu, '')
    .replace(/^\.+/, '')
    .trim()
    .slice(-150) || 'file';

const unfilled: Outcome = { state: 'blank', value: undefined, problem: null, stops: false };

/** Everything that keeps a planned request from going, in words. */
export function stoppers({ outcomes, missing, address }: Omit<Planned, 'request' | 'sendable'>): Problem[] {
  const unmapped = missing.map(
    field => new Problem('line.unmapped', `${field.key} is required but has no source.`, null),
  );
  const stopped = outcomes.flatMap(each => (each.stops && each.problem ? [each.problem] : []));
  // A line that stops the request says more than the place that it leaves open.
  return [...unmapped, ...stopped, ...(address && stopped.length === 0 ? [address] : [])];
}
