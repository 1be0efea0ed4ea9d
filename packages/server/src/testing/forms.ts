import type { IntakeView } from '@grammata/contract';
import { eventually } from './eventually';
import type { Client } from './running';

/** Posts a submission to an intake, as a form builder does. */
export const post = ({ url }: Pick<Client, 'url'>, { address }: Pick<IntakeView, 'address'>, data: object) =>
  fetch(`${url}${new URL(address).pathname}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(data),
  });

/** An intake with these submissions, read: its form is known. */
export async function withForm(
  client: Client,
  submissions: readonly object[],
  name = 'Reports',
): Promise<{ intake: IntakeView; formId: string }> {
  const intake = (await client.call<IntakeView>('POST', '/intakes', { name })).json;
  for (const each of submissions) await post(client, intake, each);
  const [seen] = await eventually(
    async () => (await client.call<{ formId: string | null }[]>('GET', `/intakes/${intake.id}/arrivals`)).json,
    all => all.length === submissions.length && all.every(each => each.formId !== null),
  );
  return { intake, formId: seen!.formId! };
}
