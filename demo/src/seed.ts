import { randomBytes } from 'node:crypto';
import type { RouteDefinition } from '@grammata/core/route';
import { catalogue, FEED_TOKEN, noticeOf, type Yard } from '@grammata/practice';
import { aboutSubmission } from '@grammata/core/submission';
import { hashPassword, passes, readTarget, type IntakeRow, type Services } from '@grammata/server';
import { arrive, arriveJson } from './arrive';
import {
  keptAt,
  pastAccessRows,
  pastAlerts,
  pastKitRequests,
  pastReports,
  pastSignUps,
  pastVisits,
  specimens,
  type PastAnswer,
} from './past';
import { toArchive, toFollowUps, toIncidents, toKits, toRegister, toRoster, toSchools, toSightings } from './routes';

const DAY = 86_400_000;

/** Gives an empty server its owner, who is let in without a password. False for a server that has one. */
export async function seedOwner({ store }: Services): Promise<boolean> {
  if (!store.accounts.isEmpty()) return false;
  store.accounts.createOwner('Rowan', await hashPassword(randomBytes(24).toString('base64')));
  return true;
}

/**
 * Fills an empty server with the demo: an intake for each way that forms reach us, with their past answers; the practice
 * targets; a live route for each form, and a draft. What came before is queued and really delivered once the server runs. False for
 * a server that is not empty.
 */
export async function seed(services: Services, yard: Yard, until: number): Promise<boolean> {
  const { store, vault, config } = services;
  if (!(await seedOwner(services))) return false;
  const open = (name: string, more: Partial<IntakeRow> = {}) =>
    store.intakes.create({ name, createdAt: until - 60 * DAY, ...more });

  /** A target with what it offers: a version of a route is made for that. */
  const connected = async (values: Parameters<typeof store.targets.create>[0]) =>
    (await readTarget(services, store.targets.create(values))).stored;

  const reports = open('Field team forms');
  const target = await connected({
    name: 'Register',
    baseUrl: yard.register.baseUrl,
    discoveryPath: '/tables',
    secret: vault.seal(yard.register.token),
    takesPersonal: true,
    knowsKeys: true,
  });
  const formId = await arrive(services, reports, 'sampling-report', pastReports(until));
  await goLive(formId, toRegister(target.id), 34);
  store.routes.create(formId, toFollowUps(target.id));

  const volunteers = open('Volunteers');
  const signUps = await arrive(services, volunteers, 'volunteer-sign-up', pastSignUps(until));
  const roster = await connected({
    name: 'Roster',
    baseUrl: yard.roster.baseUrl,
    reads: 'openapi',
    discoveryPath: '/openapi.json',
    auth: { kind: 'header', name: 'X-Roster-Key' },
    secret: vault.seal(yard.roster.key),
    takesPersonal: true,
    knowsKeys: true,
  });
  const labDesk = await connected({
    name: 'Lab desk',
    baseUrl: yard.labDesk.baseUrl,
    reads: 'openapi',
    discoveryPath: '/openapi.json',
    auth: {
      kind: 'oauth',
      tokenUrl: yard.labDesk.tokenUrl,
      clientId: yard.labDesk.client.id,
      scope: '',
      clientIn: 'header',
    },
    secret: vault.seal(yard.labDesk.client.secret),
    knowsKeys: true,
  });
  const outbox = await connected({
    name: 'Outbox',
    baseUrl: yard.outbox.baseUrl,
    reads: 'mail',
    discoveryPath: '/',
    auth: { kind: 'basic', user: yard.outbox.user },
    secret: vault.seal(yard.outbox.password),
    takesPersonal: true,
  });
  const shelf = await connected({
    name: 'Shelf',
    baseUrl: yard.shelf.baseUrl,
    reads: 'openapi',
    discoveryPath: '/openapi.json',
    auth: { kind: 'basic', user: yard.shelf.user },
    secret: vault.seal(yard.shelf.password),
  });
  await goLive(signUps, toRoster(roster.id), 20);

  const requests = open('Requests and alerts');
  const kitForm = await arrive(services, requests, 'kit-request', pastKitRequests(until));
  const alertForm = await arrive(services, requests, 'incident-alert', pastAlerts(until));
  await goLive(kitForm, toKits(target.id, labDesk.id), 12);
  await goLive(alertForm, toIncidents({ labDesk: labDesk.id, outbox: outbox.id, shelf: shelf.id }), 12);

  const visits = open('School mail');
  const visitForm = await arrive(services, visits, 'school-visit', pastVisits(until));
  store.forms.update(visitForm, { name: 'School visit enquiry' });
  await goLive(visitForm, toSchools(roster.id, outbox.id), 9);

  const log = catalogue.find(each => each.id === 'site-access-log')!;
  const rowOf = ({ filled }: PastAnswer) => log.kind.row!(log.form, filled);
  yard.fill(log.id, pastAccessRows(until).map(rowOf).reverse());
  open('Site access log', {
    feed: {
      url: `${yard.url}/builders/${log.id}/rows`,
      on: true,
      every: '*/5 * * * *',
      auth: 'bearer',
      name: '',
      paging: 'cursor',
      parameter: 'after',
      cursorAt: '/more/after',
      newestFirst: true,
    },
    feedSecret: vault.seal(FEED_TOKEN),
  });

  const sightings = await connected({
    name: 'Animal sightings',
    baseUrl: yard.sightings.baseUrl,
    reads: 'graphql',
    discoveryPath: '/graphql',
    auth: { kind: 'header', name: 'X-Sightings-Key' },
    secret: vault.seal(yard.sightings.key),
    takesPersonal: true,
  });
  await goLive(formId, toSightings(sightings.id), 25);

  // A notice tells nothing but a number: a person pointed at where it stands.
  const notices = open('Archive notices', { pins: { split: '/value' } });
  const archive = await connected({
    name: 'Specimen archive',
    baseUrl: yard.archive.baseUrl,
    reads: 'openapi',
    discoveryPath: '/openapi.json',
    auth: { kind: 'header', name: 'X-Archive-Key' },
    secret: vault.seal(yard.archive.key),
  });
  const times = keptAt(until);
  const kept = yard.archive.keep(specimens);
  const past = kept.slice(0, times.length).map((id, at) => ({ body: noticeOf(id), receivedAt: times[at]! }));
  const noticeForm = await arriveJson(services, notices, past);
  store.forms.update(noticeForm, { name: 'New specimen' });
  await goLive(noticeForm, toArchive(archive.id), 11);

  const addressOf = ({ slug }: IntakeRow) => `${config.publicUrl}/in/${slug}`;
  yard.pointAt('sampling-report', addressOf(reports));
  yard.pointAt('volunteer-sign-up', addressOf(volunteers));
  yard.pointAt('kit-request', addressOf(requests));
  yard.pointAt('incident-alert', addressOf(requests));
  yard.archive.notify(addressOf(notices));
  if (config.mail)
    yard.pointAt('school-visit', `${visits.slug}@${config.mail.domain}`, `${config.host}:${config.mail.port}`);

  return true;

  /** A route that went live days ago, with all that came before still to be delivered. */
  function goLive(form: string, draft: RouteDefinition, days: number) {
    store.forms.update(form, { state: 'adopted' });
    const route = store.routes.create(form, draft);
    store.routes.goLive(route.id, null, until - days * DAY);
    const version = store.routes.latestVersion(route.id)!;
    return services.ledger.queue(
      store.forms
        .samples(form, 10_000)
        .reverse()
        .filter(sample => passes(version, sample))
        .map(sample => ({
          routeId: route.id,
          versionId: version.id,
          submissionId: sample.id,
          about: aboutSubmission(sample.data),
          createdAt: sample.receivedAt + 1000,
        })),
    );
  }
}
