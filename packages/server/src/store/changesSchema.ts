import type { AnswerChange, DocumentChange, FormChange } from '@grammata/core/drift';
import { answerChangeKinds } from '@grammata/core/drift';
import type { Json } from '@grammata/core/submission';
import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';

/** open: somebody has to look. settled: something was done about it. declined: nothing is to be done. */
export type ChangeState = 'open' | 'settled' | 'declined';

/** hold: what comes is held for one route. deliver: it is not. Each whatever the route's terms say. */
export type HoldDecision = 'hold' | 'deliver';

/** What is told of how much comes, and of which forms: one falls silent, floods, or is another one at an address that had its own. */
export interface TrafficChange {
  change: 'silent' | 'flood' | 'another-form';
  question: null;
  was?: Json;
  now?: Json;
}

/** True for what is told of what comes at all: the form itself is what it was. */
export const isTraffic = (what: { change: string }): what is TrafficChange =>
  what.change === 'silent' || what.change === 'flood' || what.change === 'another-form';

/** True for what the answers of a target tell. */
export const isOfAnswers = (what: { change: string }): what is AnswerChange =>
  (answerChangeKinds as readonly string[]).includes(what.change);

/** Changes seen in forms and targets. Times are ms since the epoch. */
export const changes = sqliteTable(
  'changes',
  {
    id: text().primaryKey(),
    subject: text().$type<'form' | 'target'>().notNull(),
    subjectId: text().notNull(),
    /** The same for the same change: what was seen once is not told again. */
    print: text().notNull(),
    what: text({ mode: 'json' }).$type<FormChange | DocumentChange | AnswerChange | TrafficChange>().notNull(),
    firstAt: integer().notNull(),
    /** When a target was last seen as it was before; null where that is not known, and of forms. */
    asBeforeAt: integer(),
    lastAt: integer().notNull(),
    /** Of a form an answer before and one since, to be looked at; of a target the operation as it was, and nothing. */
    before: text({ mode: 'json' }).$type<Json>(),
    after: text({ mode: 'json' }).$type<Json>(),
    state: text().$type<ChangeState>().notNull().default('open'),
    by: text(),
    settledAt: integer(),
    /** What somebody decided for single routes while it is open, by the route's identifier; others do as their terms say. */
    decided: text({ mode: 'json' }).$type<Record<string, HoldDecision>>().notNull().default({}),
  },
  table => [
    uniqueIndex('changes_by_print').on(table.subject, table.subjectId, table.print),
    index('changes_by_time').on(table.firstAt),
  ],
);
