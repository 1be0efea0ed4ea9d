import { randomBytes } from 'node:crypto';
import { catalogue, FEED_TOKEN, type Yard } from '@grammata/practice';
import { aboutSubmission, hashPassword, type IntakeRow, type Services } from '@grammata/server';
import { arrive } from './arrive';
import {
  pastAccessRows,
  pastAlerts,
  pastKitRequests,
  pastReports,
  pastSignUps,
  pastVisits,
  type PastAnswer,
} from './past';
import { toFollowUps, toRegister, toRoster } from './routes';

const DAY = 86_400_000;

/**
 * Fills an empty server with the demo: an intake for each way that forms reach us, with their past answers; the register
 * as a target; one route live and one in draft. Past reports of the live route are queued and really delivered once the
 * server runs.
 */
export async function seed(services: Services, yard: Yard, until: number): Promise<void> {
  const { store, vault, config } = services;
  if (!store.accounts.isEmpty()) return;
  store.accounts.createOwner('Rowan', await hashPassword(randomBytes(24).toString('base64')));
  const open = (name: string, more: Partial<IntakeRow> = {}) =>
    store.intakes.create({ name, createdAt: until - 60 * DAY, ...more });

  const reports = open('Field team forms');
  const target = store.targets.create({
    name: 'Register',
    baseUrl: yard.register.baseUrl,
    discoveryPath: '/tables',
    secret: vault.seal(yard.register.token),
  });
  const formId = await arrive(services, reports, 'sampling-report', pastReports(until));
  const live = store.routes.create(formId, toRegister(target.id));
  store.routes.create(formId, toFollowUps(target.id));
  store.routes.goLive(live.id, until - 34 * DAY);
  queuePast(live.id, formId);

  const volunteers = open('Volunteers');
  const signUps = await arrive(services, volunteers, 'volunteer-sign-up', pastSignUps(until));
  const roster = store.targets.create({
    name: 'Roster',
    baseUrl: yard.roster.baseUrl,
    reads: 'openapi',
    discoveryPath: '/openapi.json',
    auth: { kind: 'header', name: 'X-Roster-Key' },
    secret: vault.seal(yard.roster.key),
  });
  store.forms.update(signUps, { state: 'adopted' });
  store.routes.create(signUps, toRoster(roster.id));

  const requests = open('Requests and alerts');
  const kitForm = await arrive(services, requests, 'kit-request', pastKitRequests(until));
  const alertForm = await arrive(services, requests, 'incident-alert', pastAlerts(until));
  for (const id of [kitForm, alertForm]) store.forms.update(id, { state: 'adopted' });

  const visits = open('School mail');
  const visitForm = await arrive(services, visits, 'school-visit', pastVisits(until));
  store.forms.update(visitForm, { name: 'School visit enquiry' });

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

  const addressOf = ({ slug }: IntakeRow) => `${config.publicUrl}/in/${slug}`;
  yard.pointAt('sampling-report', addressOf(reports));
  yard.pointAt('volunteer-sign-up', addressOf(volunteers));
  yard.pointAt('kit-request', addressOf(requests));
  yard.pointAt('incident-alert', addressOf(requests));
  if (config.mail)
    yard.pointAt('school-visit', `${visits.slug}@${config.mail.domain}`, `${config.host}:${config.mail.port}`);

  function queuePast(routeId: string, form: string) {
    const version = store.routes.latestVersion(routeId)!;
    for (const sample of store.forms.samples(form, 10_000).reverse())
      store.deliveries.queue({
        routeId,
        versionId: version.id,
        submissionId: sample.id,
        about: aboutSubmission(sample.data),
        createdAt: sample.receivedAt + 1000,
      });
  }
}
