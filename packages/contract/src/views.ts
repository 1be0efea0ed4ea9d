import type { Column, PackedSubmission } from '@grammata/core/sample';
import type { Decoded, FoundEnvelope, LandmarkProblem, Note, Pins } from '@grammata/core/decode';
import type { Sample } from '@grammata/core/rehearse';
import type { Ask, Done } from '@grammata/core/perform';
import type { RequestPlan } from '@grammata/core/request';
import type { ResponseMember } from '@grammata/core/response';
import type { FormSchema } from '@grammata/core/schema';
import type { Pace, Patience } from '@grammata/core/perform';
import type { Json, Submission } from '@grammata/core/submission';
import type { Auth, Operation } from '@grammata/core/target';
import type { FeedInput } from './feed';
import type { FormState } from './forms';
import type { ReplyKind } from './inputs';
import type { OperationHead } from './operations';
import type { LandmarkInput } from './pins';
import type { ReadingKind } from './readingKinds';
import type { RecipeInput } from './recipe';
import type { VerificationView } from './verification';

// What the server answers. All times are ISO 8601 in UTC; sizes are bytes.

export interface SessionView {
  /** Null when nobody is signed in. */
  user: { name: string; role: 'owner' } | null;
  /** True until the owner's account is made. */
  needsSetup: boolean;
  demo: boolean;
}

export interface IntakeView {
  id: string;
  name: string;
  address: string;
  state: 'open' | 'stopped';
  sizeLimit: number;
  reply: ReplyKind;
  replyText: string;
  refusalText: string;
  replyWait: number;
  verification: VerificationView | null;
  allowedAddresses: string[];
  allowedOrigins: string[];
  /** Seconds. */
  sameWithin: number;
  /** True where PUT and PATCH are taken like POST. */
  takesPut: boolean;
  pins: Pins;
  /** Days; null keeps what arrived. */
  keepDays: number | null;
  /** Where mails for it go; null where no mailbox listens. */
  mailAddress: string | null;
  feed: FeedView | null;
  fileAccess: { host: string; kind: Auth['kind']; name: string; hasSecret: boolean } | null;
  createdAt: string;
  arrivals: number;
  lastArrivalAt: string | null;
  forms: FormSummary[];
}

export interface FeedView extends Omit<FeedInput, 'secret'> {
  hasSecret: boolean;
  /** When it is read next; null while it is off. */
  nextAt: string | null;
  /** How the last reading went; null before the first. */
  reading: { at: string; fresh: number; pages: number; fault: string | null } | null;
}

export interface FormSummary {
  id: string;
  intakeId: string;
  key: string;
  name: string;
  /** What its builder calls it, where people gave it another name. */
  ownName: string | null;
  submissions: number;
  lastAt: string | null;
  state: FormState;
  /** Forms under other keys that are the same as this one. */
  same: { id: string; name: string }[];
}

/** A form in a list. */
export interface FormListed extends FormSummary {
  intakeName: string;
}

export interface FormView extends FormSummary {
  intakeName: string;
  schema: FormSchema;
}

/** read: answers were found. unread: nothing could be made of it. refused: kept in part, not taken. waiting: not read yet. reading: being read. */
export type ArrivalState = 'waiting' | 'reading' | 'read' | 'unread' | 'refused';

/** What keeps the server from storing anything. */
export interface StorageView {
  since: string;
  message: string;
}

export interface ArrivalSummary {
  id: string;
  intakeId: string;
  receivedAt: string;
  method: string;
  contentType: string | null;
  size: number;
  state: ArrivalState;
  /** Name of the first submission's form. */
  formName: string | null;
  formId: string | null;
  submissions: number;
  /** A few answers of the first, to tell arrivals apart. */
  about: string | null;
  /** Set when a submission with the same identifier came before. */
  repeats: boolean;
  /** What was not read, in a line; null when all was. */
  trouble: string | null;
  /** False where the reading is to be looked at: it may be wrong. */
  isSure: boolean;
}

export interface ArrivalView extends ArrivalSummary {
  /** The address asked for, with its query. */
  url: string;
  sender: string | null;
  headers: [name: string, value: string][];
  /** How its check went, in words; null where nothing was checked. */
  checked: string | null;
  /** As text; null when it is no text. */
  body: string | null;
  /** True when only the beginning was kept. */
  cut: boolean;
  /** As it was decoded; null for what could not be. */
  document: Json;
  media: string | null;
  envelope: FoundEnvelope | null;
  runnersUp: FoundEnvelope[];
  notes: Note[];
  /** How messages before it were read, where this is the first that is built otherwise; else null. */
  before: { reader: string; answersAt: string; splitAt: string | null } | null;
  /** An identifier that several submissions have which say different things, and how many others do; null for none. */
  shared: { id: string; submissions: number } | null;
  decoded: (Submission & { sampleId: string })[];
  deliveries: DeliverySummary[];
}

/** What pins would make of the recorded messages of an intake. */
export interface PinsPreview {
  /** Messages looked at: the newest. */
  looked: number;
  /** All there are. */
  recorded: number;
  changed: number;
  /** Different forms among them. */
  forms: number;
  /** Messages that have not what is pinned, and are read as before. */
  missing: number;
  /** What the message that is looked at would be read as. */
  shown: Submission[];
  /** Those that change or miss it, newest first, the first few. */
  rows: {
    arrivalId: string;
    receivedAt: string;
    before: ReadingSummary;
    after: ReadingSummary;
    missing: string | null;
  }[];
}

/** A reading of a message in short. */
export interface ReadingSummary {
  submissions: number;
  form: string | null;
  answers: { label: string; value: string }[];
}

/** Where values stand in running texts, as far as it could be learned. */
export interface LearnedView {
  landmarks: LandmarkInput[];
  problems: LandmarkProblem[];
}

/** Long work under way or lately done. */
export interface WorkView {
  id: string;
  kind: 'upload' | 'reread' | 'feed' | 'send' | 'resend' | 'batch';
  title: string;
  /** What it is about; null for what is about no single one. */
  intakeId: string | null;
  routeId: string | null;
  state: 'running' | 'done' | 'stopped' | 'failed';
  done: number;
  /** Null while nobody knows. */
  total: number | null;
  /** What came of it; null while it runs. */
  summary: string | null;
  /** What went wrong on the way, the first lines. */
  report: string[];
  /** Lines of the report in all. */
  reported: number;
  startedAt: string;
}

/** A request to an address that no intake has. */
export interface StrayView {
  id: string;
  at: string;
  method: string;
  url: string;
  sender: string | null;
  size: number;
}

/** A target in a list: without what it offers. */
export interface TargetSummary {
  id: string;
  name: string;
  baseUrl: string;
  reads: ReadingKind;
  /** How many operations it offers, and how many of them store something. */
  operations: number;
  writing: number;
  /** When its tables and columns were last read from it. */
  readAt: string | null;
  /** Why the last reading failed; null when it did not. */
  fault: string | null;
}

/** A target as a route goes to it. */
export interface RouteTarget extends Omit<TargetSummary, 'operations' | 'writing'> {
  discoveryPath: string;
  auth: Auth;
  /** The document or example it is read from, where it is small; null where there is none, or a large one. */
  document: string | null;
  /** Characters of the document; null where there is none. */
  documentSize: number | null;
  recipe: RecipeInput | null;
  hasToken: boolean;
  /** How long its answers are waited for, in seconds; null for as long as is usual. */
  patience: Patience | null;
  /** How much is asked of it at once; null for as much as is usual. */
  pace: Pace | null;
  /** Set while it is left alone, since it failed time and again: since when, until when, and what it failed with last. */
  parked: { since: string; until: string; reason: string } | null;
  /** Where things are tried on; null where there is no other side. */
  tryBaseUrl: string | null;
  takesPersonal: boolean;
  knowsKeys: boolean;
  takesNames: boolean;
  /** When its token says that it ends (RFC 7519 §4.1.4), ISO 8601; null where it does not say. */
  tokenEndsAt: string | null;
  /** Somebody's consent, where its credentials are one: null before it was given. */
  consent: { givenAt: string; ended: { at: string; reason: string } | null } | null;
  /** What it offers; of a target with very many, what its calls use and what is near that. */
  operations: Operation[];
  /** What these really answered to tests, by their identifiers. */
  answers: Record<string, Json>;
}

/** A target with what it offers, a line each. */
export interface TargetView extends Omit<RouteTarget, 'operations'> {
  /** The address that providers send people back to who gave consent. */
  consentAddress: string;
  operations: OperationHead[];
  /** Base addresses that its document names in place of its own. */
  servers: string[];
  /** Operations that its source has and people took away. */
  takenAway: { id: string; label: string }[];
}

/** A record of a target, as a value to pick. */
export interface ChoiceView {
  value: string;
  label: string;
}

/** The records of a list; part of them where a target may have more than were asked for. */
export interface ChoicesView {
  choices: ChoiceView[];
  isPart: boolean;
}

/** Files that samples link to, and which of them can’t be had. */
export interface FilesView {
  looked: number;
  faults: { sampleId: string; message: string }[];
}

export interface ConnectionView {
  ok: boolean;
  /** What happened, in a sentence. */
  verdict: string;
  /** What to do about it, when something is wrong. */
  advice: string | null;
  status: number | null;
  milliseconds: number;
  /** True where no request told whether the credentials work. */
  isUntested?: boolean;
}

/** What a call was answered with a success status, as far as it may tell whether that was a success. */
export interface ResponsesView {
  /** How many were looked at, the newest. */
  total: number;
  members: ResponseMember[];
  /** What may say no in them, and how often. */
  doubts: { message: string; count: number }[];
}

/** A sample with what people said of it. */
export interface NamedSample extends Sample {
  name: string | null;
  kept: boolean;
  /** The message it came in; null for a variant. */
  arrivalId: string | null;
  /** True for one that a person made out of another. */
  isVariant: boolean;
}

/** Recorded submissions, newest first, whole; the first page has the variants before them. */
export interface SamplesView {
  samples: NamedSample[];
  /** All that match, variants apart. */
  total: number;
  /** How many of the newest that hold the words were looked through; null where that is all. */
  searched: number | null;
  /** Where the next page begins; null on the last. */
  next: string | null;
}

/** A sample by the columns of its page. */
export type PackedSample = PackedSubmission & Omit<NamedSample, 'submission' | 'id'> & { sampleId: string };

/** Samples as the workbench takes them, by the thousand. */
export interface SamplePage {
  columns: Column[];
  rows: PackedSample[];
  /** Recorded submissions in all. */
  total: number;
  /** Where the next page begins, further back in time; null on the last. */
  next: string | null;
  /** Where those begin that come after these; null of a page further back, and while there are none. */
  newest: string | null;
}

/** waiting: for its turn or its next try. sending. delivered. held: can't be made as it is. dead: given up. */
export type DeliveryState = 'waiting' | 'sending' | 'delivered' | 'held' | 'dead';

export interface DeliverySummary {
  id: string;
  routeId: string;
  routeName: string;
  version: number;
  state: DeliveryState;
  createdAt: string;
  finishedAt: string | null;
  nextAttemptAt: string | null;
  attempts: number;
  sampleId: string;
  /** A few answers, to tell submissions apart. */
  about: string;
  /** What keeps it, in a line. */
  reason: string | null;
}

export interface AttemptView {
  id: string;
  number: number;
  callId: string;
  item: string;
  purpose: Ask['purpose'];
  startedAt: string;
  milliseconds: number;
  /** The message as it went out, secrets masked. */
  request: string;
  status: number | null;
  /** The answer as it came. */
  response: string | null;
  outcome: 'delivered' | 'retry' | 'final';
  message: string;
  /** What the target said of single lines. */
  complaints: Complaint[];
}

/** What a target said of one value. */
export interface Complaint {
  /** Null where it is about no line. */
  lineId: string | null;
  /** The target's field, or what it called it. */
  field: string;
  message: string;
}

export interface DeliveryView extends DeliverySummary {
  idempotencyKey: string;
  arrivalId: string;
  targetName: string;
  /** What would be sent, as far as it is known before anything is looked up. */
  planned: { callId: string; plan: RequestPlan }[];
  /** The calls of its version, in their order. */
  calls: {
    id: string;
    label: string;
    targetName: string;
    /** Where its target is, and where it is tried. */
    addresses: string[];
  }[];
  done: Done[];
  problems: { code: string; message: string }[];
  attemptList: AttemptView[];
  /** When it is given up if nothing changes; null while no call failed. */
  tryUntil: string | null;
  /** For how many hours its route tries again. */
  hours: number;
}

export interface DeliveryPage {
  deliveries: DeliverySummary[];
  total: number;
  /** The newest delivery of all, matching or not; null where there is none. */
  newest: string | null;
  /** How many that match began after the one up to which was asked. */
  newer: number;
  counts: Record<DeliveryState, number>;
  /** How many of the newest submissions that hold the words were looked through; null where that is all. */
  searched: number | null;
}

export interface PracticeView {
  /** Null outside the demo. */
  yard: { builders: PracticePart[]; targets: PracticePart[] } | null;
}

export interface PracticePart {
  id: string;
  name: string;
  summary: string;
  /** Its page. */
  page: string;
  /** What to type elsewhere: an API address, a token. */
  facts: { label: string; value: string }[];
  /** A target that is connected with these alone: it lists its tables, and takes a bearer token. */
  connect?: { baseUrl: string; discoveryPath: string; token: string };
}

/** What the live stream tells; places read again what it touches. */
export type LiveEvent =
  /** Something came, or was read: then with the forms that its submissions belong to. */
  | { type: 'arrival'; intakeId: string; arrivalId: string; formIds?: string[] }
  | { type: 'stray' }
  /** A change of a form or a target was seen, or settled. */
  | { type: 'drift' }
  | { type: 'storage' }
  | { type: 'signedOut' }
  | { type: 'work'; id: string; intakeId: string | null; ended: boolean }
  | { type: 'form'; formId: string }
  | { type: 'delivery'; routeId: string; deliveryId: string; state: DeliveryState }
  /** The revision of a route's draft where that is what changed. */
  | { type: 'changed'; what: 'intake' | 'target' | 'route'; id: string; revision?: number };

/** RFC 9457 problem details, with the rules a request broke. */
export interface ProblemDetails {
  type: string;
  title: string;
  status: number;
  detail?: string;
  errors?: { field: string; message: string }[];
}

export type { Decoded };
