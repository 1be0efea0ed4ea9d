import { randomBytes } from 'node:crypto';
import { answerListMessage, samplingReport, type Yard } from '@grammata/practice';
import { aboutSubmission, decodeArrival, hashPassword, newId, readingOf, type Services } from '@grammata/server';
import { pastReports } from './reports';
import { toFollowUps, toRegister } from './routes';

/**
 * Fills an empty server with the demo: an intake with its past reports, the register as a target, one route live and
 * one in draft. Past reports of the live route are queued and really delivered once the server runs.
 */
export async function seed({ store, vault, config }: Services, yard: Yard, until: number): Promise<void> {
  if (!store.accounts.isEmpty()) return;
  store.accounts.createOwner('Rowan', await hashPassword(randomBytes(24).toString('base64')));
  const intake = store.intakes.create({ name: 'Field team forms', createdAt: until - 40 * 86_400_000 });
  const { target } = await seedTarget();
  const live = seedReports();
  store.routes.goLive(live.id, until - 34 * 86_400_000);
  const version = store.routes.latestVersion(live.id)!;
  for (const sample of store.forms.samples(live.formId, 10_000).reverse()) {
    store.deliveries.queue({
      routeId: live.id,
      versionId: version.id,
      submissionId: sample.id,
      about: aboutSubmission(sample.data),
      createdAt: sample.receivedAt + 1000,
    });
  }
  yard.pointBuildersAt(`${config.publicUrl}/in/${intake.slug}`);

  async function seedTarget() {
    const row = store.targets.create({
      name: 'Register',
      baseUrl: yard.register.baseUrl,
      discoveryPath: '/tables',
      secret: vault.seal(yard.register.token),
    });
    return { target: row };
  }

  /** Records the past reports as if they had come over HTTP, reads them, and makes the two routes of their form. */
  function seedReports() {
    let formId = '';
    for (const { receivedAt, filled } of pastReports(until)) {
      const { contentType, body } = answerListMessage(samplingReport, filled);
      const bytes = Buffer.from(body);
      const headers: [string, string][] = [
        ['content-type', contentType],
        ['user-agent', 'practice-answer-list/1'],
        ['content-length', String(bytes.length)],
      ];
      const arrival = {
        id: newId(receivedAt),
        intakeId: intake.id,
        receivedAt,
        method: 'POST',
        url: `/in/${intake.slug}`,
        contentType,
        headers,
        sender: filled.client.addr,
        size: bytes.length,
        body: bytes,
        cut: false,
        state: 'waiting' as const,
        trouble: null,
        checked: null,
        digest: null,
      };
      store.arrivals.record([arrival]);
      formId = store.arrivals.store(arrival, readingOf(decodeArrival(arrival)))[0]?.formId ?? formId;
    }
    const route = store.routes.create(formId, toRegister(target.id));
    store.routes.create(formId, toFollowUps(target.id));
    return route;
  }
}
