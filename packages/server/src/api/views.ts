import { recipeInput } from '@grammata/contract';
import type {
  ArrivalSummary,
  DeliverySummary,
  FormSummary,
  IntakeView,
  OperationHead,
  RouteSummary,
  RouteTarget,
  TargetSummary,
  TargetView,
} from '@grammata/contract';
import { isWriting, type Auth, type Operation, withAnswered } from '@grammata/core/target';
import { iso, isoOrNull } from '../clock';
import { callLabel, type Parked } from '../delivery';
import type { Services } from '../services';
import { tokenEnd } from '../targets';
import {
  type ArrivalHead,
  type DeliveryRow,
  type FormHead,
  type IntakeRow,
  type RouteRow,
  type TargetRow,
} from '../store';

// How rows look to the interface.

export const formSummary = ({ form, submissions, same }: FormHead): FormSummary => ({
  id: form.id,
  intakeId: form.intakeId,
  key: form.key,
  name: form.name,
  ownName: form.ownName,
  submissions,
  lastAt: isoOrNull(form.lastAt),
  state: form.state,
  same,
});

export function intakeViews({ store, config, feeds }: Services, rows: IntakeRow[]): IntakeView[] {
  const traffic = store.intakes.traffic();
  const forms = store.forms.heads(rows.length === 1 ? rows[0]!.id : undefined);
  return rows.map(row => ({
    id: row.id,
    name: row.name,
    address: `${config.publicUrl}/in/${row.slug}`,
    state: row.state,
    sizeLimit: row.sizeLimit,
    reply: row.reply,
    replyText: row.replyText,
    refusalText: row.refusalText,
    replyWait: row.replyWait,
    verification: row.verification && { ...row.verification, secrets: row.secrets ? 1 : 0 },
    allowedAddresses: row.allowedAddresses,
    allowedOrigins: row.allowedOrigins,
    sameWithin: row.sameWithin,
    takesPut: row.takesPut,
    pins: row.pins,
    keepDays: row.keepDays,
    mailAddress: config.mail && `${row.slug}@${config.mail.domain}`,
    feed: row.feed && {
      ...row.feed,
      hasSecret: row.feedSecret !== null,
      nextAt: feeds.nextAt(row.id),
      reading: row.feedReading && { ...row.feedReading, at: iso(row.feedReading.at) },
    },
    fileAccess: row.fileAccess && {
      host: row.fileAccess.host,
      ...nameIn(row.fileAccess.auth),
      hasSecret: row.fileSecret !== null,
    },
    createdAt: iso(row.createdAt),
    arrivals: traffic.get(row.id)?.arrivals ?? 0,
    lastArrivalAt: isoOrNull(traffic.get(row.id)?.lastAt ?? null),
    forms: forms.filter(each => each.form.intakeId === row.id).map(formSummary),
  }));
}

/** A kind of credentials with its user, header or parameter. */
const nameIn = (auth: Auth) => ({
  kind: auth.kind,
  name: auth.kind === 'basic' ? auth.user : 'name' in auth ? auth.name : '',
});

/** The names of all forms by their identifiers: lists look each up once. */
export const formNames = ({ store }: Services): Map<string, string> =>
  new Map(store.forms.heads().map(({ form }) => [form.id, form.name]));

export const arrivalSummary = (row: ArrivalHead, names: ReadonlyMap<string, string>): ArrivalSummary => ({
  id: row.id,
  intakeId: row.intakeId,
  receivedAt: iso(row.receivedAt),
  method: row.method,
  contentType: row.contentType,
  size: row.size,
  state: row.state,
  formName: (row.formId && names.get(row.formId)) ?? null,
  formId: row.formId !== null && names.has(row.formId) ? row.formId : null,
  submissions: row.found,
  about: row.about,
  repeats: row.repeats > 0,
  trouble: row.trouble,
  isSure: !row.unsure,
});

const parkedView = (parked: Parked | null): TargetView['parked'] =>
  parked && { since: iso(parked.since), until: iso(parked.until), reason: parked.reason };

/** Characters up to which a target's document is shown. */
const SHOWN_DOCUMENT = 100_000;

export const targetSummary = (row: TargetRow): TargetSummary => ({
  id: row.id,
  name: row.name,
  baseUrl: row.baseUrl,
  reads: row.reads,
  operations: row.operations.length,
  writing: row.operations.filter(isWriting).length,
  readAt: isoOrNull(row.readAt),
  fault: row.fault,
});

/** A target as a route goes to it, with these of its operations. */
export function routeTarget(
  { breakers, vault }: Pick<Services, 'breakers' | 'vault'>,
  row: TargetRow,
  operations: readonly Operation[],
): RouteTarget {
  const { operations: _all, writing: _writing, ...summary } = targetSummary(row);
  return {
    ...summary,
    discoveryPath: row.discoveryPath,
    auth: row.auth,
    document: row.document !== null && row.document.length <= SHOWN_DOCUMENT ? row.document : null,
    documentSize: row.document?.length ?? null,
    recipe: row.recipe && recipeInput(row.recipe),
    hasToken: row.secret !== null,
    patience: row.patience,
    pace: row.pace,
    parked: parkedView(breakers.parked(row.id)),
    tryBaseUrl: row.trySide?.baseUrl ?? null,
    takesPersonal: row.takesPersonal,
    knowsKeys: row.knowsKeys,
    takesNames: row.takesNames,
    tokenEndsAt: isoOrNull(tokenEnd(row, vault)),
    consent: row.consent && {
      givenAt: iso(row.consent.givenAt),
      ended: row.consent.ended && { at: iso(row.consent.ended.at), reason: row.consent.ended.reason },
    },
    operations: operations.map(each => withAnswered(each, row.answers[each.id])),
    answers: Object.fromEntries(
      operations.flatMap(({ id }) => (row.answers[id] === undefined ? [] : [[id, row.answers[id]]])),
    ),
  };
}

export function targetView(services: Pick<Services, 'breakers' | 'consents' | 'vault'>, row: TargetRow): TargetView {
  return {
    consentAddress: services.consents.redirectUri,
    ...routeTarget(services, row, []),
    operations: operationHeads(row),
    servers: row.servers,
    takenAway: row.own.flatMap(({ id, operation, was }) => (operation || !was ? [] : [{ id, label: was.label }])),
  };
}

/** How an operation differs from what the source says; null where it does not. */
export function ownOf({ own }: TargetRow, id: string): 'changed' | 'added' | null {
  const set = own.find(each => each.id === id);
  return set?.operation ? (set.was ? 'changed' : 'added') : null;
}

export const operationHeads = (row: TargetRow): OperationHead[] =>
  row.operations.map(({ id, label, method, path, body, reads, fields }) => {
    const own = ownOf(row, id);
    return {
      id,
      label,
      method,
      path,
      ...(body && { body }),
      ...(reads && { reads }),
      fields: fields.length,
      ...(own && { own }),
    };
  });

export function routeSummary({ store }: Services, row: RouteRow): RouteSummary {
  const form = store.forms.named(row.formId);
  const [first, ...others] = row.draft.calls;
  const { label, targetName } = callLabel(first!, store);
  const version = store.routes.latestVersion(row.id);
  const changes = version ? store.routes.changesSince(version, row) : { edited: false, targets: [] };
  const counts = store.deliveries.counts({ routeId: row.id });
  return {
    id: row.id,
    name: row.draft.name,
    state: row.state,
    formId: row.formId,
    formName: form?.name ?? 'a form that was removed',
    intakeName: form?.intakeName ?? '',
    targetName: [...new Set([targetName, ...others.map(call => callLabel(call, store).targetName)])].join(', '),
    operationLabel: others.length === 0 ? label : `${label}, and ${others.length} more`,
    version: version?.number ?? null,
    changed: changes.edited || changes.targets.length > 0,
    targetsChanged: changes.targets.map(id => store.targets.byId(id)?.name ?? ''),
    liveSince: isoOrNull(row.liveSince),
    delivered: counts.delivered,
    waiting: counts.waiting + counts.sending,
    dead: counts.dead + counts.held,
  };
}

export function deliverySummary({ store }: Services, row: DeliveryRow, version?: number): DeliverySummary {
  return {
    id: row.id,
    routeId: row.routeId,
    routeName: store.routes.byId(row.routeId)?.draft.name ?? '',
    version: version ?? store.routes.version(row.versionId)?.number ?? 0,
    state: row.state,
    createdAt: iso(row.createdAt),
    finishedAt: isoOrNull(row.finishedAt),
    nextAttemptAt: isoOrNull(row.nextAttemptAt),
    attempts: row.attempts,
    sampleId: row.submissionId,
    about: row.about,
    reason: row.reason,
  };
}
