import type { Pins, Way } from '@grammata/core/decode';
import type { FieldSchema } from '@grammata/core/schema';
import type { FieldKind, Json, Submission } from '@grammata/core/submission';
import type { Auth, Consent, DiscoveryRecipe, Operation, OwnOperation, SecurityScheme } from '@grammata/core/target';
import type { Ask, Done, Pace, Patience } from '@grammata/core/perform';
import type { RouteDefinition } from '@grammata/core/route';
import type {
  ArrivalState,
  Complaint,
  DeliveryState,
  FeedInput,
  FormState,
  ReadingKind,
  ReplyKind,
  RouteState,
  TrialView,
  VerificationInput,
} from '@grammata/contract';
import { sql } from 'drizzle-orm';
import {
  blob,
  index,
  integer,
  primaryKey,
  sqliteTable,
  text,
  uniqueIndex,
  type AnySQLiteColumn,
} from 'drizzle-orm/sqlite-core';

// Times are milliseconds since the epoch; sizes are bytes.

export const users = sqliteTable('users', {
  id: text().primaryKey(),
  name: text().notNull(),
  role: text().$type<'owner'>().notNull(),
  passwordHash: text().notNull(),
  createdAt: integer().notNull(),
});

export const sessions = sqliteTable('sessions', {
  /** SHA-256 of the cookie's token: the database alone opens no session. */
  tokenHash: text().primaryKey(),
  userId: text()
    .notNull()
    .references(() => users.id, { onDelete: 'cascade' }),
  expiresAt: integer().notNull(),
});

/** How the last reading of a feed went. */
export interface FeedReading {
  at: number;
  /** Where the next reading goes on, as the source gave it. */
  cursor: string | null;
  /** Submissions that had not been seen before. */
  fresh: number;
  pages: number;
  fault: string | null;
}

export const intakes = sqliteTable('intakes', {
  id: text().primaryKey(),
  name: text().notNull(),
  /** The unguessable last part of its address. */
  slug: text().notNull().unique(),
  state: text().$type<'open' | 'stopped'>().notNull(),
  sizeLimit: integer().notNull(),
  reply: text().$type<ReplyKind>().notNull(),
  replyText: text().notNull(),
  /** What senders are told of a submission that a target refuses, or that is held; empty for nothing but that it arrived. */
  refusalText: text().notNull().default(''),
  /** Seconds that a sender waits for a target's answer. */
  replyWait: integer().notNull().default(10),
  verification: text({ mode: 'json' }).$type<Omit<VerificationInput, 'secrets'>>(),
  /** A JSON list of secrets, encrypted. */
  secrets: blob({ mode: 'buffer' }),
  allowedAddresses: text({ mode: 'json' }).$type<string[]>().notNull().default([]),
  allowedOrigins: text({ mode: 'json' }).$type<string[]>().notNull().default([]),
  sameWithin: integer().notNull().default(60),
  /** True where PUT and PATCH are taken like POST. */
  takesPut: integer({ mode: 'boolean' }).notNull().default(false),
  /** What a person pointed at to overrule the reading. */
  pins: text({ mode: 'json' }).$type<Pins>().notNull().default({}),
  /** Counts the changes of how its messages are read. */
  readingRevision: integer().notNull().default(0),
  /** Days after which what arrived is deleted; null keeps it. */
  keepDays: integer(),
  feed: text({ mode: 'json' }).$type<Omit<FeedInput, 'secret'>>(),
  /** Token or password of the feed, encrypted. */
  feedSecret: blob({ mode: 'buffer' }),
  feedReading: text({ mode: 'json' }).$type<FeedReading>(),
  /** Which host is shown who fetches a file, and how; null shows nobody. */
  fileAccess: text({ mode: 'json' }).$type<{ host: string; auth: Auth }>(),
  /** The token, password or key for that, encrypted. */
  fileSecret: blob({ mode: 'buffer' }),
  createdAt: integer().notNull(),
});

/** Requests as they came. */
export const arrivals = sqliteTable(
  'arrivals',
  {
    id: text().primaryKey(),
    intakeId: text()
      .notNull()
      .references(() => intakes.id, { onDelete: 'cascade' }),
    receivedAt: integer().notNull(),
    method: text().notNull(),
    url: text().notNull(),
    contentType: text(),
    headers: text({ mode: 'json' }).$type<[string, string][]>().notNull(),
    sender: text(),
    size: integer().notNull(),
    /** True when the body is large and lies in a file of its own; `arrival_bodies` has its beginning. */
    aside: integer({ mode: 'boolean' }).notNull().default(false),
    /** True when the body was longer than the limit and only its beginning was kept. */
    cut: integer({ mode: 'boolean' }).notNull(),
    state: text().$type<ArrivalState>().notNull(),
    trouble: text(),
    /** True when it was read in a way that is not sure, so that a person should look. */
    unsure: integer({ mode: 'boolean' }).notNull().default(false),
    /** By which reader and where, for one that was read for sure: those that follow are more likely meant so. */
    way: text({ mode: 'json' }).$type<Way>(),
    checked: text(),
    /** SHA-256 of method, query and body: the same for the same bytes. */
    digest: text(),
    /** Where it is read: beside others, or alone in a thread for what is large or slow. */
    lane: text().$type<'quick' | 'slow'>().notNull().default('quick'),
    /** How often the server ended while it was being read: at the third time it is set aside. */
    tries: integer().notNull().default(0),
    /** The intake's `readingRevision` that it was read with. */
    readingRevision: integer().notNull().default(0),
    /** True when reading it had to be ended, or may have ended the server: it is not read again but when a person asks. */
    ended: integer({ mode: 'boolean' }).notNull().default(false),
    /** What it was read as, in short: its submissions, how many of them repeat others, the form and a few answers of the first. */
    found: integer().notNull().default(0),
    repeats: integer().notNull().default(0),
    formId: text(),
    about: text(),
  },
  table => [
    index('arrivals_by_digest').on(table.intakeId, table.digest),
    index('arrivals_by_intake').on(table.intakeId, table.receivedAt),
    // Those that are read already, most of all, are not looked for by their state.
    index('arrivals_open')
      .on(table.state, table.lane, table.receivedAt, table.id)
      .where(sql`state IN ('waiting', 'reading', 'unread')`),
    index('arrivals_by_time').on(table.receivedAt),
  ],
);

export const forms = sqliteTable(
  'forms',
  {
    id: text().primaryKey(),
    intakeId: text()
      .notNull()
      .references(() => intakes.id, { onDelete: 'cascade' }),
    key: text().notNull(),
    name: text().notNull(),
    /** What its builder calls it, where people gave it another name. */
    ownName: text(),
    /** Submissions that repeat no other. Triggers on `submissions` keep it. */
    submissions: integer().notNull().default(0),
    /** How many submissions its questions are known from. */
    learned: integer().notNull().default(0),
    lastAt: integer(),
    /** new: seen, nobody has said what to do with it. */
    state: text().$type<FormState>().notNull().default('adopted'),
    /** The form that it is the same as: what comes under its key belongs there. */
    sameAs: text(),
  },
  table => [uniqueIndex('forms_by_key').on(table.intakeId, table.key)],
);

const formId = () =>
  text()
    .notNull()
    .references(() => forms.id, { onDelete: 'cascade' });

/** What is known of each question of a form. Times are ms since the epoch. */
export const formQuestions = sqliteTable(
  'form_questions',
  {
    formId: formId(),
    key: text().notNull(),
    /** Its place in the form, in the order in which questions were first seen. */
    position: integer().notNull(),
    label: text().notNull(),
    kind: text().$type<FieldKind>().notNull(),
    kinds: text({ mode: 'json' }).$type<FieldSchema['kinds']>().notNull(),
    filled: integer().notNull(),
    examples: text({ mode: 'json' }).$type<string[]>().notNull(),
    longest: integer().notNull(),
    shortest: integer().notNull(),
    shapes: text({ mode: 'json' }).$type<FieldSchema['shapes']>().notNull(),
    firstAt: integer().notNull(),
    lastAt: integer().notNull(),
  },
  table => [primaryKey({ columns: [table.formId, table.key] })],
);

/** Names that people gave to questions; what the form asks stays beside it. */
export const questionNames = sqliteTable(
  'question_names',
  { formId: formId(), key: text().notNull(), name: text().notNull() },
  table => [primaryKey({ columns: [table.formId, table.key] })],
);

/** What was chosen at a question, by its form and key. */
export const formOptions = sqliteTable(
  'form_options',
  {
    formId: formId(),
    key: text().notNull(),
    value: text().notNull(),
    position: integer().notNull(),
    times: integer().notNull(),
    firstAt: integer().notNull(),
    lastAt: integer().notNull(),
  },
  table => [primaryKey({ columns: [table.formId, table.key, table.value] })],
);

/** What came of a form in each week. */
export const formWeeks = sqliteTable(
  'form_weeks',
  {
    formId: formId(),
    /** Its Monday in UTC, `2026-11-02`. */
    monday: text().notNull(),
    submissions: integer().notNull(),
  },
  table => [primaryKey({ columns: [table.formId, table.monday] })],
);

/** How often a question was answered in a week; a question that was not asked in it has no row. */
export const questionWeeks = sqliteTable(
  'form_question_weeks',
  {
    formId: formId(),
    monday: text().notNull(),
    key: text().notNull(),
    filled: integer().notNull(),
  },
  table => [primaryKey({ columns: [table.formId, table.monday, table.key] })],
);

/** Submissions that the rows of their form's questions do not tell of yet. */
export const formUnlearned = sqliteTable(
  'form_unlearned',
  {
    formId: formId(),
    submissionId: text()
      .notNull()
      .references((): AnySQLiteColumn => submissions.id, { onDelete: 'cascade' }),
  },
  table => [
    primaryKey({ columns: [table.formId, table.submissionId] }),
    index('form_unlearned_by_submission').on(table.submissionId),
  ],
);

/** Submissions read out of arrivals. */
export const submissions = sqliteTable(
  'submissions',
  {
    id: text().primaryKey(),
    arrivalId: text()
      .notNull()
      .references(() => arrivals.id, { onDelete: 'cascade' }),
    formId: text()
      .notNull()
      .references(() => forms.id, { onDelete: 'cascade' }),
    position: integer().notNull(),
    receivedAt: integer().notNull(),
    /** The builder's own identifier. */
    builderId: text(),
    data: text({ mode: 'json' }).$type<Submission>().notNull(),
    /** The submission that came first with the same identifier. */
    repeatOf: text(),
    /** What a person calls it, as a sample. */
    name: text(),
    /** Kept when what arrived with it is deleted on time. */
    kept: integer({ mode: 'boolean' }).notNull().default(false),
  },
  table => [
    // What is counted and listed of a form: read from the index alone.
    index('submissions_own')
      .on(table.formId, table.receivedAt, table.id)
      .where(sql`repeat_of IS NULL`),
    index('submissions_all').on(table.formId),
    uniqueIndex('submissions_by_arrival').on(table.arrivalId, table.position),
    index('submissions_by_builder_id').on(table.formId, table.builderId),
  ],
);

/** Samples that a person made out of a submission, to try what has not arrived yet. */
export const variants = sqliteTable(
  'variants',
  {
    id: text().primaryKey(),
    formId: text()
      .notNull()
      .references(() => forms.id, { onDelete: 'cascade' }),
    name: text().notNull(),
    data: text({ mode: 'json' }).$type<Submission>().notNull(),
    createdAt: integer().notNull(),
  },
  table => [index('variants_by_form').on(table.formId)],
);

/** What targets offered, under the hash of it. Rows never change: a version of a route says which it was made for. */
export const snapshots = sqliteTable('snapshots', {
  hash: text().primaryKey(),
  operations: text({ mode: 'json' }).$type<Operation[]>().notNull(),
  createdAt: integer().notNull(),
});

export const targets = sqliteTable('targets', {
  id: text().primaryKey(),
  name: text().notNull(),
  baseUrl: text().notNull(),
  /** What it is read from. */
  reads: text().$type<ReadingKind>().notNull().default('tables'),
  discoveryPath: text().notNull(),
  auth: text({ mode: 'json' }).$type<Auth>().notNull().default({ kind: 'bearer' }),
  /** The token, password or key, encrypted. */
  secret: blob({ mode: 'buffer' }),
  /** What it is read from, where that was given as a text. */
  document: text(),
  /** Where its list of tables has what, where that is not the usual. */
  recipe: text({ mode: 'json' }).$type<DiscoveryRecipe>(),
  /** Another installation to try things on. */
  trySide: text({ mode: 'json' }).$type<{ baseUrl: string; auth: Auth }>(),
  trySecret: blob({ mode: 'buffer' }),
  /** Whether what tells who people are may go there, and whether it knows idempotency keys: as somebody said. */
  takesPersonal: integer({ mode: 'boolean' }).notNull().default(false),
  knowsKeys: integer({ mode: 'boolean' }).notNull().default(false),
  /** Whether it takes the names of options where they have an identifier, too. */
  takesNames: integer({ mode: 'boolean' }).notNull().default(false),
  /** How long its answers are waited for; null for the usual. */
  patience: text({ mode: 'json' }).$type<Patience>(),
  /** How much is asked of it at once; null for the usual. */
  pace: text({ mode: 'json' }).$type<Pace>(),
  /** What its operations answered to tests, by their identifiers, without secrets and cut short. */
  answers: text({ mode: 'json' }).$type<Record<string, Json>>().notNull().default({}),
  /** Base addresses that its document names in place of its own, as it was read last. */
  servers: text({ mode: 'json' }).$type<string[]>().notNull().default([]),
  /** What it offers, as it was last read; null before the first reading. */
  snapshot: text().references(() => snapshots.hash),
  /** The kinds of credentials that its document asked for, as it was read last; null where it was not. */
  asksFor: text({ mode: 'json' }).$type<SecurityScheme[]>(),
  /** Somebody's consent (OAuth 2): since when, until when; and its tokens, encrypted. */
  consent: text({ mode: 'json' }).$type<Consent>(),
  consentTokens: blob({ mode: 'buffer' }),
  /** What people set of its operations. */
  own: text({ mode: 'json' }).$type<OwnOperation[]>().notNull().default([]),
  readAt: integer(),
  fault: text(),
  createdAt: integer().notNull(),
});

export const routes = sqliteTable('routes', {
  id: text().primaryKey(),
  formId: text()
    .notNull()
    .references(() => forms.id, { onDelete: 'cascade' }),
  state: text().$type<RouteState>().notNull(),
  draft: text({ mode: 'json' }).$type<RouteDefinition>().notNull(),
  /** Counts the edits of the draft. */
  revision: integer().notNull().default(0),
  liveSince: integer(),
  /** How the last real try of the draft went. */
  trial: text({ mode: 'json' }).$type<TrialView>(),
  createdAt: integer().notNull(),
});

/** What a route did from one going live to the next. */
export const versions = sqliteTable(
  'versions',
  {
    id: text().primaryKey(),
    routeId: text()
      .notNull()
      .references(() => routes.id, { onDelete: 'cascade' }),
    number: integer().notNull(),
    /** The form whose submissions it takes. */
    formId: text().notNull().default(''),
    definition: text({ mode: 'json' }).$type<RouteDefinition>().notNull(),
    /** What each of its targets offered then: hashes of snapshots by the targets' identifiers. */
    pins: text({ mode: 'json' }).$type<Record<string, string>>().notNull().default({}),
    /** Who made it live; null for those of before that was kept. */
    by: text(),
    createdAt: integer().notNull(),
  },
  table => [uniqueIndex('versions_by_route').on(table.routeId, table.number)],
);

export const deliveries = sqliteTable(
  'deliveries',
  {
    id: text().primaryKey(),
    routeId: text()
      .notNull()
      .references(() => routes.id, { onDelete: 'cascade' }),
    versionId: text()
      .notNull()
      .references(() => versions.id),
    submissionId: text()
      .notNull()
      .references(() => submissions.id, { onDelete: 'cascade' }),
    state: text().$type<DeliveryState>().notNull(),
    /** 1 for the first; a deliberate second delivery of the same submission is 2. */
    run: integer().notNull(),
    idempotencyKey: text().notNull(),
    createdAt: integer().notNull(),
    finishedAt: integer(),
    nextAttemptAt: integer(),
    attempts: integer().notNull(),
    reason: text(),
    about: text().notNull(),
    /** ms of the time for tries that are used up, since the last call that was done: requests and the pauses between them. */
    spent: integer().notNull().default(0),
    /** Tries of the request at hand, since what was done before it. */
    tries: integer().notNull().default(0),
    /** Who is sending it, and until when nobody else takes it up. */
    leaseOwner: text(),
    leaseUntil: integer(),
  },
  table => [
    uniqueIndex('deliveries_once').on(table.routeId, table.submissionId, table.run),
    index('deliveries_due').on(table.routeId, table.state, table.nextAttemptAt),
    index('deliveries_by_time').on(table.createdAt, table.id),
    index('deliveries_by_state').on(table.state, table.createdAt, table.id),
    index('deliveries_by_route').on(table.routeId, table.createdAt, table.id),
    index('deliveries_by_submission').on(table.submissionId),
    index('deliveries_by_version').on(table.versionId),
    // What is looked for in reasons: few have one.
    index('deliveries_kept')
      .on(table.createdAt)
      .where(sql`reason IS NOT NULL`),
    index('deliveries_leased')
      .on(table.leaseUntil)
      .where(sql`lease_until IS NOT NULL`),
  ],
);

export const attempts = sqliteTable(
  'attempts',
  {
    id: text().primaryKey(),
    deliveryId: text()
      .notNull()
      .references(() => deliveries.id, { onDelete: 'cascade' }),
    number: integer().notNull(),
    startedAt: integer().notNull(),
    milliseconds: integer().notNull(),
    request: text().notNull(),
    status: integer(),
    response: text(),
    outcome: text().$type<'delivered' | 'retry' | 'final'>().notNull(),
    message: text().notNull(),
    /** Which call it was of, for which item, and what for. */
    callId: text().notNull().default(''),
    item: text().notNull().default('0'),
    purpose: text().$type<Ask['purpose']>().notNull().default('create'),
    complaints: text({ mode: 'json' }).$type<Complaint[]>().notNull().default([]),
  },
  table => [index('attempts_by_delivery').on(table.deliveryId, table.number)],
);

/** A call that is done as it is kept: without secrets; where its answer holds some, the whole is sealed beside it, in Base64. */
export type StoredDone = Done & { sealed?: string };

/** Calls that are done: a delivery that goes on later does not make them again. */
export const callsDone = sqliteTable(
  'calls_done',
  {
    deliveryId: text()
      .notNull()
      .references(() => deliveries.id, { onDelete: 'cascade' }),
    callId: text().notNull(),
    item: text().notNull(),
    done: text({ mode: 'json' }).$type<StoredDone>().notNull(),
  },
  table => [primaryKey({ columns: [table.deliveryId, table.callId, table.item] })],
);

/** Copies of files, kept for those who may not open the builder's own. */
export const copies = sqliteTable(
  'copies',
  {
    id: text().primaryKey(),
    /** The submission whose file it is: it goes with it. Null for one that was kept before that was known. */
    submissionId: text().references(() => submissions.id, { onDelete: 'cascade' }),
    name: text().notNull(),
    type: text().notNull(),
    size: integer().notNull(),
    /** SHA-256, in hexadecimal. */
    digest: text().notNull(),
    expiresAt: integer().notNull(),
  },
  table => [index('copies_by_submission').on(table.submissionId)],
);
