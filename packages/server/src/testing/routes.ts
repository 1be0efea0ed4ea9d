import type { IntakeView, ProposedProofs, RouteView, TargetView } from '@grammata/contract';
import { draftOf } from './draftOf';
import { withForm } from './forms';
import type { Client, FakeTarget } from './running';

export interface TestRoute {
  intake: IntakeView;
  formId: string;
  register: TargetView;
  route: RouteView;
}

/** A route from a form with these submissions to the target's table of samples, with its lines for `site` and `ph` filled. */
export async function withRoute(
  client: Client,
  target: FakeTarget,
  submissions: readonly object[],
): Promise<TestRoute> {
  const { intake, formId } = await withForm(client, submissions);
  const add = { name: 'Register', baseUrl: target.url, discoveryPath: '/tables', token: 'a secret token' };
  const register = (await client.call<TargetView>('POST', '/targets', add)).json;
  const body = { name: 'Reports', formId, targetId: register.id, operationId: 'create:samples' };
  const route = (await client.call<RouteView>('POST', '/routes', body)).json;
  for (const to of ['site', 'ph'])
    route.draft.calls[0]!.lines.find(each => each.to === to)!.source = { from: 'field', field: to };
  const saved = await client.call<RouteView>('PUT', `/routes/${route.id}/draft`, draftOf(route));
  return { intake, formId, register, route: saved.json };
}

/** Approves what a route gives for the samples that are worth proving. */
export async function withProofs(client: Client, { id }: RouteView): Promise<void> {
  const { json } = await client.call<ProposedProofs>('POST', `/routes/${id}/proofs/propose`);
  await client.call('POST', `/routes/${id}/proofs`, { sampleIds: json.samples.map(each => each.sampleId) });
}
