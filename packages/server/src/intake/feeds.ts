import { createHash } from 'node:crypto';
import { Cron } from 'croner';
import { isUnpinned } from '@grammata/core/decode';
import { asText, parseJson, valueAt } from '@grammata/core/submission';
import { iso, now } from '../clock';
import { newId } from '../ids';
import type { LiveHub } from '../live';
import { isFault, type Outward, type OutwardAnswer } from '../outward';
import { FEED, type ArrivalRow, type FeedReading, type IntakeRow, type Store } from '../store';
import { decodeArrival, readingOf } from './reading';

export interface FeedParts {
  store: Store;
  live: LiveHub;
  outward: Outward;
  /** The token or password of an intake's feed. */
  secretOf(intake: IntakeRow): string;
  stored(): void;
}

/** Pages read at one time; the next reading goes on. */
const MOST_PAGES = 50;

type Rule = NonNullable<IntakeRow['feed']>;

/** The next time a schedule falls due, or why it is none. Five fields as in crontab(5), in UTC. */
export function nextTime(every: string): Date | null | { fault: string } {
  try {
    return new Cron(every, { timezone: 'UTC', paused: true }).nextRun();
  } catch (error) {
    return { fault: (error as Error).message };
  }
}

/** Reads addresses on a timer. What was seen before is not taken again. */
export class Feeds {
  readonly #timers = new Map<string, Cron>();
  readonly #underWay = new Map<string, Promise<FeedReading>>();

  constructor(private readonly parts: FeedParts) {}

  /** Sets the timers anew: for one intake, or for all. */
  schedule(intakes: IntakeRow[] = this.parts.store.intakes.all()): void {
    for (const { id, feed, state } of intakes) {
      this.#timers.get(id)?.stop();
      this.#timers.delete(id);
      if (!feed?.on || state === 'stopped') continue;
      const timer = new Cron(feed.every, { timezone: 'UTC', unref: true, protect: true }, async () => {
        await this.read(id);
      });
      this.#timers.set(id, timer);
    }
  }

  nextAt(intakeId: string): string | null {
    const next = this.#timers.get(intakeId)?.nextRun();
    return next ? iso(next.getTime()) : null;
  }

  forget(intakeId: string): void {
    this.#timers.get(intakeId)?.stop();
    this.#timers.delete(intakeId);
  }

  async close(): Promise<void> {
    for (const timer of this.#timers.values()) timer.stop();
    await Promise.allSettled(this.#underWay.values());
  }

  /** Reads a feed now; a reading under way is joined. Never rejects: the reading says what went wrong. */
  read(intakeId: string): Promise<FeedReading> {
    const running = this.#underWay.get(intakeId);
    if (running) return running;
    const reading = this.#read(intakeId).finally(() => this.#underWay.delete(intakeId));
    this.#underWay.set(intakeId, reading);
    return reading;
  }

  async #read(intakeId: string): Promise<FeedReading> {
    const { store, live } = this.parts;
    const intake = store.intakes.byId(intakeId);
    const none: FeedReading = { at: now(), cursor: null, fresh: 0, pages: 0, fault: 'It has no feed any more.' };
    if (!intake?.feed) return none;
    const reading = await this.#pages(intake, intake.feed);
    if (!store.intakes.byId(intakeId)?.feed) return reading;
    store.intakes.update(intakeId, { feedReading: reading });
    live.publish({ type: 'changed', what: 'intake', id: intakeId });
    return reading;
  }

  async #pages(intake: IntakeRow, rule: Rule): Promise<FeedReading> {
    const reading: FeedReading = {
      at: now(),
      cursor: intake.feedReading?.cursor ?? null,
      fresh: 0,
      pages: 0,
      fault: null,
    };
    let url: string | null = firstAddress(rule, reading.cursor);
    const visited = new Set<string>();
    while (url !== null && reading.pages < MOST_PAGES && !visited.has(url)) {
      visited.add(url);
      const answer = await this.parts.outward.send({
        method: 'GET',
        url,
        headers: { accept: '*/*', ...credentials(rule, this.parts.secretOf(intake)) },
        most: intake.sizeLimit,
      });
      if (isFault(answer)) return { ...reading, fault: answer.message };
      const fault = faultOf(answer, intake);
      if (fault) return { ...reading, fault };
      reading.pages += 1;
      const fresh = this.#take(intake, url, answer);
      reading.fresh += fresh;
      const next = nextPage(rule, url, answer, reading.pages);
      if (rule.paging === 'cursor' && next?.cursor) reading.cursor = next.cursor;
      url = next === null || (fresh === 0 && (rule.newestFirst || rule.paging === 'page')) ? null : next.url;
    }
    return reading;
  }

  /** Records an answer that holds something new; gives back how many submissions of it are. */
  #take(intake: IntakeRow, url: string, answer: OutwardAnswer): number {
    const { store, live } = this.parts;
    const arrival = arrivalFromFeed(intake, url, answer);
    const decoded = decodeArrival(arrival, isUnpinned(intake.pins) ? {} : intake.pins);
    const { submissions, state } = readingOf(decoded);
    const fresh = store.arrivals.unseenOf(intake.id, submissions);
    const isEmpty = Array.isArray(decoded.document) && decoded.document.length === 0;
    const isNews = state === 'read' ? fresh > 0 : !isEmpty && !store.arrivals.hasDigest(intake.id, arrival.digest!);
    if (!isNews) return 0;
    store.arrivals.record([arrival]);
    this.parts.stored();
    live.publish({ type: 'arrival', intakeId: intake.id, arrivalId: arrival.id });
    return fresh;
  }
}

function faultOf({ status, body, headers, cut }: OutwardAnswer, { sizeLimit }: IntakeRow): string | null {
  const said = /json|text\/plain/.test(headers['content-type'] ?? '') ? ` It said: ${body.slice(0, 200)}` : '';
  if (status === 401 || status === 403) return `The source refused the credentials (${status}).${said}`;
  if (status >= 300) return `The source answered ${status}.${said}`;
  if (cut) return `The answer is larger than this intake’s limit of ${(sizeLimit / 1e6).toFixed(1)} MB.`;
  return null;
}

function credentials({ auth, name }: Rule, secret: string): Record<string, string> {
  if (auth === 'bearer') return { authorization: `Bearer ${secret}` };
  if (auth === 'basic') return { authorization: `Basic ${Buffer.from(`${name}:${secret}`).toString('base64')}` };
  return auth === 'header' ? { [name.toLowerCase()]: secret } : {};
}

function withParameter(url: string, name: string, value: string): string {
  const address = new URL(url);
  address.searchParams.set(name, value);
  return address.href;
}

function firstAddress({ url, paging, parameter, newestFirst }: Rule, cursor: string | null): string {
  // Where the newest come first, every reading begins at the top.
  if (paging === 'cursor' && cursor !== null && !newestFirst) return withParameter(url, parameter, cursor);
  return paging === 'page' ? withParameter(url, parameter, '1') : url;
}

/** Where the next page is; null after the last. */
function nextPage(
  { url, paging, parameter, cursorAt }: Rule,
  current: string,
  answer: OutwardAnswer,
  pages: number,
): { url: string; cursor?: string } | null {
  if (paging === 'page') return { url: withParameter(url, parameter, String(pages + 1)) };
  if (paging === 'link') {
    // RFC 8288: `<address>; rel="next"`.
    const next = /<([^>]*)>\s*;[^,]*\brel="?next"?/i.exec(answer.headers.link ?? '')?.[1];
    const address = next === undefined ? null : new URL(next, current);
    return address?.origin === new URL(url).origin ? { url: address.href } : null;
  }
  if (paging !== 'cursor') return null;
  const cursor = asText(valueAt(parseJson(answer.body) ?? null, cursorAt) ?? null);
  return cursor === '' ? null : { url: withParameter(url, parameter, cursor), cursor };
}

function arrivalFromFeed(intake: IntakeRow, url: string, { bytes, headers }: OutwardAnswer): ArrivalRow {
  const receivedAt = now();
  return {
    id: newId(receivedAt),
    intakeId: intake.id,
    receivedAt,
    method: FEED,
    url: `/in/${intake.slug}`,
    contentType: headers['content-type'] ?? null,
    headers: [['content-location', url], ...Object.entries(headers).filter(([name]) => name !== 'set-cookie')],
    sender: new URL(url).hostname,
    size: bytes.length,
    body: bytes,
    cut: false,
    state: 'waiting',
    aside: false,
    trouble: null,
    checked: null,
    digest: createHash('sha256').update(bytes).digest('base64url'),
  };
}
