import { DraftInput, IntakeInput, TargetInput } from '@grammata/contract';
import { fuzzApi } from '@grammata/server/testing';
import { Attacked, until } from './server';

/** So many odd requests at every route of the API of the built server. */
export async function attackApi(times: number, seed: number) {
  const attacked = await Attacked.fresh();
  try {
    const intake = await attacked.call<{ id: string; address: string }>('POST', '/intakes', { name: 'Fuzzed' });
    await fetch(intake.address, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"site":"AB-07","ph":7.4}',
    });
    const arrivals = () =>
      attacked.call<{ id: string; formId: string | null }[]>('GET', `/intakes/${intake.id}/arrivals`);
    await until(async () => Boolean((await arrivals())[0]?.formId), 20_000, 'it is read');
    const [arrival] = await arrivals();
    const target = await attacked.call<{ id: string; operations: { id: string }[] }>('POST', '/targets', {
      name: 'T',
      baseUrl: attacked.url,
      reads: 'example',
      discoveryPath: '/',
      document: '{"site":"AB-07","ph":7}',
    });
    const route = await attacked.call<{ id: string; draft: object }>('POST', '/routes', {
      name: 'R',
      formId: arrival!.formId,
      targetId: target.id,
      operationId: target.operations[0]!.id,
    });
    const { samples } = await attacked.call<{ samples: { id: string }[] }>('GET', `/forms/${arrival!.formId}/samples`);
    const figures = await fuzzApi(
      {
        async send(method, path, body) {
          const answer = await fetch(`${attacked.url}/api${path}`, {
            method,
            headers: { 'content-type': 'application/json', cookie: attacked.cookie },
            body,
          });
          return { status: answer.status, text: await answer.text() };
        },
        known: {
          intake: intake.id,
          arrival: arrival!.id,
          form: arrival!.formId!,
          target: target.id,
          route: route.id,
          sample: samples[0]!.id,
        },
        like: new Map<new () => object, unknown>([
          [IntakeInput, { name: 'Fuzzed', reply: 'accepted', sizeLimit: 5000 }],
          [
            TargetInput,
            { name: 'T', baseUrl: attacked.url, reads: 'tables', discoveryPath: '/tables', auth: { kind: 'bearer' } },
          ],
          [DraftInput, route.draft],
        ]),
      },
      times,
      seed,
    );
    return { ...figures, lives: attacked.lives };
  } finally {
    await attacked.kill();
  }
}
