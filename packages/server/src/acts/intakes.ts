import type { Readable } from 'node:stream';
import type { FeedAuth, FeedInput, IntakeInput } from '@grammata/contract';
import type { Pins } from '@grammata/core/decode';
import { parseJson } from '@grammata/core/submission';
import type { Vault } from '../access';
import { newId } from '../ids';
import {
  arrivalFromFile,
  BodyMemory,
  LARGEST_UPLOAD,
  readableEndings,
  readBody,
  redirectTo,
  typeOfFile,
} from '../intake';
import { fieldFault, HttpProblem, notFound } from '../problems';
import type { Services } from '../services';
import type { ArrivalRow, IntakeRow } from '../store';
import { nextTime } from '../timing';
import type { Actor } from './actor';
import { mustBeFree } from './names';

type Parts = Pick<
  Services,
  'store' | 'ledger' | 'live' | 'vault' | 'feeds' | 'reader' | 'rereading' | 'log' | 'bodies' | 'copies' | 'timers'
>;

/** Arrivals that are removed before others have their turn. */
const PORTION = 200;
/** What files that are being uploaded take of memory together. */
const uploads = new BodyMemory();

const changed = ({ live }: Parts, id: string) => live.publish({ type: 'changed', what: 'intake', id });

/** Opens an intake. Throws HttpProblem where its parts can't be used together. */
export function openIntake(parts: Parts, actor: Actor, input: IntakeInput): IntakeRow {
  checkTogether(input, null);
  const names = parts.store.intakes.all().map(each => each.name);
  mustBeFree(input.name, 'intake', names);
  const row = parts.store.intakes.create(storedIntake(parts.vault, input, null));
  parts.feeds.schedule([row]);
  parts.log.info({ actor: actor.id, intake: row.id }, 'an intake was opened');
  changed(parts, row.id);
  return row;
}

/** Changes an intake; what the input leaves out stays. Throws like {@link openIntake}. */
export function changeIntake(parts: Parts, actor: Actor, before: IntakeRow, input: IntakeInput): IntakeRow {
  checkTogether(input, before);
  const others = parts.store.intakes.all().flatMap(each => (each.id === before.id ? [] : each.name));
  if (input.name !== before.name) mustBeFree(input.name, 'intake', others);
  const row = parts.store.intakes.update(before.id, storedIntake(parts.vault, input, before))!;
  parts.feeds.schedule([row]);
  parts.log.info({ actor: actor.id, intake: row.id }, 'an intake was changed');
  changed(parts, row.id);
  return row;
}

/** Removes an intake with all that came to it. Throws HttpProblem while a route hangs on it. */
export async function removeIntake(parts: Parts, actor: Actor, { id }: IntakeRow): Promise<void> {
  const { store, ledger, feeds, bodies, copies, log } = parts;
  const forms = store.forms.heads(id);
  const route = forms.flatMap(({ form }) => store.routes.ofForm(form.id))[0];
  if (route)
    throw new HttpProblem(
      409,
      `The route “${route.draft.name}” uses this intake.`,
      'Switch its form under Delivery, or remove the route.',
    );
  feeds.forget(id);
  // It takes nothing from now on; what it has goes in portions, so that others have their turn.
  store.intakes.close(id);
  for (;;) {
    const { count, asideIds } = await ledger.removeIntake({ intakeId: id, most: PORTION });
    asideIds.forEach(each => bodies.remove(each));
    if (count < PORTION) break;
  }
  copies.sweep();
  store.changes.forget(
    'form',
    forms.map(({ form }) => form.id),
  );
  log.info({ actor: actor.id, intake: id }, 'an intake was removed');
  changed(parts, id);
}

/** Takes a file of past submissions: they become samples and are not delivered. Throws HttpProblem for one that can't be read. */
export async function takeUpload(
  parts: Parts,
  actor: Actor,
  intake: IntakeRow,
  name: string,
  body: Readable,
): Promise<Pick<ArrivalRow, 'id'>> {
  const { reader, bodies, live, log, ledger } = parts;
  const type = typeOfFile(name);
  if (!type)
    throw new HttpProblem(415, `“${name}” can’t be read.`, `Files ending in ${readableEndings.join(', ')} can.`);
  const id = newId();
  const kept = await readBody(body, {
    limit: LARGEST_UPLOAD,
    layAside: chunks => bodies.write(id, chunks),
    memory: uploads,
  });
  if (kept.cut)
    throw new HttpProblem(413, `“${name}” is larger than ${LARGEST_UPLOAD / 1e6} MB.`, 'Split it into several files.');
  if (kept.size === 0) throw new HttpProblem(422, `“${name}” is empty.`);
  const arrival = arrivalFromFile(intake, id, { name, type }, kept);
  const [isStored] = await ledger.takeIn([arrival]).catch((error: unknown) => {
    bodies.remove(id);
    throw error;
  });
  if (!isStored) {
    bodies.remove(id);
    throw notFound('intake');
  }
  reader.wake();
  log.info({ actor: actor.id, intake: intake.id, arrival: arrival.id }, 'a file was taken');
  live.publish({ type: 'arrival', intakeId: intake.id, arrivalId: arrival.id });
  return arrival;
}

/** Keeps what a person pointed at, and reads everything recorded anew. */
export function keepPins(parts: Parts, actor: Actor, { id }: IntakeRow, pins: Pins): IntakeRow {
  const row = parts.store.intakes.setPins(id, pins)!;
  parts.rereading.begin(row);
  parts.log.info({ actor: actor.id, intake: id }, 'an intake is read again');
  changed(parts, id);
  return row;
}

/** Reads a feed at once. Throws HttpProblem for an intake that has none. */
export async function readFeed({ feeds, log }: Parts, actor: Actor, intake: IntakeRow) {
  if (!intake.feed) throw new HttpProblem(409, 'This intake has no feed.', 'Enter a URL to poll first.');
  log.info({ actor: actor.id, intake: intake.id }, 'a feed is read');
  return feeds.read(intake.id);
}

/** Has a message read once more. Throws HttpProblem for one that could be read. */
export async function readAgain(
  parts: Parts,
  actor: Actor,
  arrival: Pick<ArrivalRow, 'id' | 'intakeId'>,
): Promise<void> {
  const { ledger, reader, live, log } = parts;
  if (!(await ledger.readAgain(arrival.id))) throw new HttpProblem(409, 'Only unread messages can be read again.');
  reader.wake();
  log.info({ actor: actor.id, arrival: arrival.id }, 'a message is read again');
  live.publish({ type: 'arrival', intakeId: arrival.intakeId, arrivalId: arrival.id });
}

/** The row's values for an input: secrets sealed, those left out kept. */
const storedIntake = (vault: Vault, { feed, fileAccess, ...input }: IntakeInput, before: IntakeRow | null) => ({
  ...storedProof(vault, input, before),
  ...storedFileAccess(vault, fileAccess, before),
  ...storedFeed(vault, feed, before),
});

const storedProof = (
  vault: Vault,
  { verification, ...rest }: Omit<IntakeInput, 'feed' | 'fileAccess'>,
  before: IntakeRow | null,
) => {
  if (verification === undefined) return rest;
  if (verification === null) return { ...rest, verification: null, secrets: null };
  const { secrets, ...rule } = verification;
  const given = secrets?.filter(Boolean) ?? [];
  if (given.length === 0 && !(before?.secrets && before.verification?.kind === rule.kind))
    throw fieldFault('verification.secrets', 'Enter the secret that the form builder uses.');
  if (rule.kind !== 'standard' && rule.name.trim() === '')
    throw fieldFault(
      'verification.name',
      rule.kind === 'basic' ? 'Enter the user name.' : 'Enter the name of the header or parameter.',
    );
  if (rule.kind === 'hmac' && rule.signed !== 'body' && rule.timestampHeader === '')
    throw fieldFault('verification.timestampHeader', 'Enter the timestamp header.');
  return { ...rest, verification: rule, ...(given.length > 0 ? { secrets: vault.seal(JSON.stringify(given)) } : {}) };
};

const storedFileAccess = (
  vault: Vault,
  access: IntakeInput['fileAccess'],
  before: IntakeRow | null,
): Partial<IntakeRow> => {
  if (access === undefined) return {};
  if (access === null) return { fileAccess: null, fileSecret: null };
  const { host, kind, name = '', secret } = access;
  if (kind !== 'bearer' && name === '') throw fieldFault('fileAccess.name', 'Enter the user, header or parameter.');
  // A secret is bound to the host it was given for.
  if (!secret && !(before?.fileSecret && before.fileAccess?.host === host))
    throw fieldFault('fileAccess.secret', 'Enter the token, password or key for this host.');
  const auth = kind === 'bearer' ? { kind } : kind === 'basic' ? { kind, user: name } : { kind, name };
  return { fileAccess: { host, auth }, ...(secret && { fileSecret: vault.seal(secret) }) };
};

/** What a name is needed for. */
const needed: Partial<Record<FeedAuth, string>> = {
  basic: 'Enter the user name.',
  header: 'Enter the header name.',
  oauth: 'Enter the client ID.',
};

/** Where a feed's secret goes, and what is had for it. */
const goesTo = ({ auth, url, tokenUrl }: Pick<FeedInput, 'auth' | 'url' | 'tokenUrl'>): string =>
  [url, auth === 'oauth' ? tokenUrl! : url].map(each => new URL(each).origin).join(' ');

const storedFeed = (vault: Vault, feed: IntakeInput['feed'], before: IntakeRow | null): Partial<IntakeRow> => {
  if (feed === undefined) return {};
  if (feed === null) return { feed: null, feedSecret: null, feedReading: null };
  const { secret, ...rule } = feed;
  const fault = scheduleFault(rule.every);
  if (fault) throw fieldFault('feed.every', fault);
  if ((rule.paging === 'cursor' || rule.paging === 'next') && rule.cursorAt === '')
    throw fieldFault('feed.cursorAt', 'Enter its place in the response, such as /next.');
  if (rule.method === 'POST' && rule.body && parseJson(rule.body) === undefined)
    throw fieldFault('feed.body', 'The request body must be JSON.');
  if (rule.parameter.startsWith('/') && rule.method !== 'POST')
    throw fieldFault('feed.parameter', 'A GET has no body: enter a query parameter.');
  if ((rule.paging === 'cursor' || rule.paging === 'page') && rule.parameter.trim() === '')
    throw fieldFault('feed.parameter', 'Enter the query parameter for the page number.');
  if (rule.auth in needed && rule.name.trim() === '') throw fieldFault('feed.name', needed[rule.auth]!);
  // A secret is bound to the address it was given for: another address has to be given it anew.
  const isElsewhere = before?.feed ? goesTo(before.feed) !== goesTo(rule) : true;
  if (rule.auth !== 'none' && !secret && (isElsewhere || !before?.feedSecret))
    throw fieldFault('feed.secret', 'Enter the token, password or secret for this URL.');
  return {
    feed: rule,
    ...(rule.auth === 'none' ? { feedSecret: null } : secret ? { feedSecret: vault.seal(secret) } : {}),
    ...(before?.feed?.url === rule.url && before.feed.paging === rule.paging ? {} : { feedReading: null }),
  };
};

/** Throws HttpProblem where the parts of an input can't be used together. */
function checkTogether(input: IntakeInput, before: IntakeRow | null): void {
  const reply = input.reply ?? before?.reply;
  if (reply === 'redirect' && redirectTo(input.replyText ?? before?.replyText ?? '') === null)
    throw fieldFault('replyText', 'Enter a URL with http:// or https://.');
}

/** Why a schedule can't be used; null when it can. */
function scheduleFault(every: string): string | null {
  const next = nextTime(every);
  if (next === null) return 'This schedule never runs.';
  return next instanceof Date ? null : `Not a schedule: ${next.fault}`;
}
