import { catalogue, type Filled } from '@grammata/practice';
import { messageOf, newArrival, type IntakeRow, type ReceivedArrival, type Services } from '@grammata/server';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import type { PastAnswer } from './past';

type Came = Pick<ReceivedArrival, 'method' | 'contentType' | 'url' | 'headers' | 'body' | 'sender'>;

/** A past answer as the message that its builder sent for it. */
async function cameFrom(builder: string, past: PastAnswer, intake: IntakeRow, mailTo: string): Promise<Came> {
  const { form, kind } = catalogue.find(each => each.id === builder)!;
  const setting = { generation: past.generation ?? ('now' as const), method: 'POST' as const };
  if (kind.notification) return mailOf(kind.notification(form, past.filled, setting), past, intake, mailTo);
  const { contentType, body } = kind.message!(form, past.filled, setting);
  return {
    method: 'POST',
    url: `/in/${intake.slug}`,
    contentType,
    headers: [
      ['content-type', contentType],
      ['user-agent', `practice-${kind.id}/1`],
      ['content-length', String(body.length)],
    ],
    body,
    sender: past.filled.client.addr,
  };
}

async function mailOf(mail: object, { filled }: { filled: Filled }, intake: IntakeRow, to: string): Promise<Came> {
  const from = 'forms@yard.example.org';
  const composed = new MailComposer({
    ...mail,
    from: `Practice yard <${from}>`,
    to,
    date: new Date(filled.sent),
    messageId: `<${filled.entry}@yard.example.org>`,
  });
  return {
    method: 'MAIL',
    url: `/in/${intake.slug}`,
    contentType: 'message/rfc822',
    headers: [
      ['mail-from', from],
      ['rcpt-to', to],
    ],
    body: await composed.compile().build(),
    sender: filled.client.addr,
  };
}

/**
 * Records past answers of a builder's form at an intake as if they had come, and reads them. Gives back the identifier
 * of their form.
 */
export async function arrive(
  services: Services,
  intake: IntakeRow,
  builder: string,
  past: PastAnswer[],
): Promise<string> {
  const mailTo = `${intake.slug}@${services.config.mail?.domain ?? 'localhost'}`;
  let formId = '';
  for (const answer of past)
    formId =
      (await record(services, intake, await cameFrom(builder, answer, intake, mailTo), answer.receivedAt)) ?? formId;
  return formId;
}

/** The same for JSON that a system sent by itself. */
export async function arriveJson(
  services: Services,
  intake: IntakeRow,
  past: { body: string; receivedAt: number }[],
): Promise<string> {
  let formId = '';
  for (const { body, receivedAt } of past) {
    const contentType = 'application/json';
    const came: Came = {
      method: 'POST',
      url: `/in/${intake.slug}`,
      contentType,
      headers: [['content-type', contentType]],
      body: Buffer.from(body),
      sender: '127.0.0.1',
    };
    formId = (await record(services, intake, came, receivedAt)) ?? formId;
  }
  return formId;
}

/** Records a message as if it had come at a time, and reads it. Gives back the identifier of its form. */
async function record(
  { ledger, bodies, decoders }: Services,
  intake: IntakeRow,
  came: Came,
  receivedAt: number,
): Promise<string | undefined> {
  const arrival = newArrival(intake, { ...came, receivedAt, digest: null, state: 'reading' });
  await ledger.takeIn([arrival]);
  const [reading] = await decoders.read([messageOf(arrival, bodies)], [intake.pins]);
  const { submissions, ...end } = reading!;
  const { readingRevision: revision } = intake;
  const [outcome] = await ledger.read([{ arrivalId: arrival.id, revision, isAgain: false, from: 0, submissions, end }]);
  return outcome!.formIds[0];
}
