import { operationName, reasonOf, type AnswerChangeSeen, type AnswerPlace } from '@grammata/core/drift';
import { asText } from '@grammata/core/submission';
import { answersUsed, operationsUsed, targetsOf, type Call, type RouteDefinition } from '@grammata/core/route';
import type { Logger } from 'pino';
import { DecodeFault, DecodeLate, type AnsweredText, type Decoders } from '../decoding';
import type { LiveHub } from '../live';
import { isOfAnswers, type AnsweredRow, type Store, type TargetRow } from '../store';
import type { Timers } from '../timing';
import { Gathering } from './gathering';

/** Newest answers that are looked at. */
const LOOKED = 400;

export interface AnswerWatchParts {
  store: Pick<Store, 'changes' | 'routes' | 'targets'>;
  decoders: Pick<Decoders, 'answerChanges'>;
  live: LiveHub;
  timers: Timers;
  log: Logger;
  /** ms after something happened before it is looked at; null where changes are not looked for. */
  changesAfter: number | null;
  /** A target refuses for a reason that it did not give before: what it offers is read again. */
  reread(target: TargetRow): Promise<void>;
}

/** Holds what targets answer against what they answered before. */
export class AnswerWatch {
  readonly #gathering: Gathering;
  #isClosed = false;

  constructor(private readonly parts: AnswerWatchParts) {
    this.#gathering = new Gathering(parts.timers, 'looking at what targets answer', parts.changesAfter, id =>
      this.check(id),
    );
  }

  /** A target answered: it is looked at in a moment. */
  heard(targetId: string): void {
    this.#gathering.add([targetId]);
  }

  close(): void {
    this.#isClosed = true;
    this.#gathering.close();
  }

  /** Looks at what one target answered, in a thread of its own; keeps what it finds. */
  async check(targetId: string): Promise<void> {
    const { store, decoders, live, log } = this.parts;
    const target = store.targets.byId(targetId);
    if (!target) return;
    const doing = store.routes.all().map(route => ({ id: route.id, ...store.routes.doing(route) }));
    const going = doing.filter(each => targetsOf(each.definition).includes(targetId));
    const rows = store.changes.answered(
      going.map(each => each.id),
      LOOKED,
    );
    const answers = rows.flatMap(row => this.#answered(row, target));
    await this.#rereadWhenRefused(target, answers);
    const answeredPlaces = placesIn(
      target,
      going.map(each => each.definition),
    );
    const found = await decoders.answerChanges(answers, answeredPlaces).catch((error: unknown) => {
      const isBound = error instanceof DecodeFault || error instanceof DecodeLate;
      if (!this.#isClosed && !isBound) throw error;
      if (isBound) log.warn({ target: targetId, reason: error.message }, 'changes of answers could not be looked for');
      return [];
    });
    if (this.#isClosed) return;
    const isTold = this.#toldElsewhere(target);
    const fresh = store.changes.keep(
      found
        .filter(each => !isTold(each))
        .map(({ what, since }) => ({
          subject: 'target' as const,
          subjectId: targetId,
          what,
          before: null,
          after: null,
          at: since,
        })),
    );
    const over = answers[0]?.outcome === 'delivered' ? this.#knownAgain(targetId, answers[0].at) : 0;
    if (fresh.length + over === 0) return;
    log.info({ target: targetId, changes: fresh.map(each => each.what.change) }, 'a target answers otherwise');
    live.publish({ type: 'drift' });
  }

  /** What was told already of an operation under the name that it had before: it is no news under another. */
  #toldElsewhere({ id, operations }: TargetRow): (seen: AnswerChangeSeen) => boolean {
    const names = new Set(operations.map(operationName));
    const told = this.parts.store.changes
      .of('target', id)
      .filter(({ what }) => isOfAnswers(what) && what.operation !== null && !names.has(what.operation));
    return ({ what, since }) =>
      told.some(
        ({ what: earlier, firstAt, lastAt }) =>
          isOfAnswers(earlier) &&
          // It began while that was told: what begins later is another.
          firstAt <= since &&
          since <= lastAt &&
          earlier.change === what.change &&
          earlier.field === what.field &&
          (what.change !== 'refused' || reasonOf(asText(earlier.now ?? null)) === reasonOf(asText(what.now ?? null))),
      );
  }

  /** Reads a target again where the newest of its answers is a refusal of a sort that none before it was, once for each. */
  async #rereadWhenRefused(target: TargetRow, answers: readonly AnsweredText[]): Promise<void> {
    const [newest, ...before] = answers;
    const sortOf = ({ operation, status, message }: AnsweredText) => `${operation} ${status} ${reasonOf(message)}`;
    if (newest?.outcome !== 'final' || newest.at <= (target.readAt ?? Infinity)) return;
    if (before.some(each => each.outcome === 'final' && sortOf(each) === sortOf(newest))) return;
    await this.parts.reread(target);
  }

  /** Credentials with which something was delivered since are no matter any more. */
  #knownAgain(targetId: string, at: number): number {
    const { changes } = this.parts.store;
    const over = changes
      .openOf('target', targetId)
      .filter(each => each.what.change === 'credentials' && each.firstAt < at);
    return changes.over(over.map(each => each.id)).length;
  }

  #answered(row: AnsweredRow, { id, operations }: TargetRow): AnsweredText[] {
    const call = this.parts.store.routes.version(row.versionId)?.definition.calls.find(each => each.id === row.callId);
    if (!call || call.targetId !== id) return [];
    const operation = operations.find(each => each.id === operationOf(call, row.purpose));
    if (!operation) return [];
    const { deliveryId, outcome, status, message, complaints, response } = row;
    return [
      {
        at: row.startedAt,
        deliveryId,
        operation: operationName(operation),
        outcome,
        status,
        message,
        complaints: complaints.map(each => ({ field: keyOf(each.lineId, call) ?? each.field, message: each.message })),
        text: response,
        compared: row.purpose === 'create' || row.purpose === 'update' ? (row.done?.compared ?? null) : null,
      },
    ];
  }
}

/** What a target has against a line it has against the field that this writes. */
const keyOf = (lineId: string | null, { lines }: Call): string | undefined =>
  lineId === null ? undefined : lines.find(each => each.id === lineId)?.to;

function operationOf({ operationId, find, readBack }: Call, purpose: AnsweredRow['purpose']): string | undefined {
  switch (purpose) {
    case 'create':
      return operationId;
    case 'find':
      return find?.operationId;
    case 'update':
      return find?.update?.operationId;
    case 'readBack':
      return readBack?.operationId;
  }
}

/** What is looked at in the answers of a target, by what routes take out of them and what it says of them itself. */
export function placesIn(
  { id, operations }: Pick<TargetRow, 'id' | 'operations'>,
  definitions: readonly RouteDefinition[],
): Map<string, AnswerPlace[]> {
  const used = definitions.map(each => answersUsed(each, id));
  const ids = new Set(definitions.flatMap(each => operationsUsed(each, id)));
  return new Map(
    operations
      .filter(each => ids.has(each.id))
      .map(operation => {
        // What it says back of what it was sent is there or not as that was.
        const sent = new Set(['', ...operation.fields.filter(each => !each.readOnly).map(each => each.pointer)]);
        const stated = (operation.answer ?? []).map(each => each.pointer).filter(each => !sent.has(each));
        const taken = new Set(used.flatMap(each => each.get(operation.id) ?? []));
        const places = [...new Set([...taken, ...stated])].map(place => ({ place, isUsed: taken.has(place) }));
        return [operationName(operation), places];
      }),
  );
}
