import type { Logger } from 'pino';
import { asText, parseJson, valueAt, withValueAt } from '@grammata/core/submission';
import { withQuery } from '@grammata/core/target';
import { iso, now } from '../clock';
import type { Decoders } from '../decoding';
import type { LiveHub } from '../live';
import {
  feedAuth,
  isFault,
  type Authorizations,
  type Outward,
  type OutwardAnswer,
  type OutwardFault,
  nextLink,
} from '../outward';
import type { Ledger } from '../ledger';
import { FEED, type FeedReading, type IntakeRow, type ReceivedArrival, type Store } from '../store';
import type { StorageHealth } from '../storage';
import type { Schedule, Timers } from '../timing';
import { newArrival } from './arrival';
import type { Bodies } from './bodies';
import { KEPT_OF_LARGE, LARGE_BODY } from './body';

export interface FeedParts {
  store: Store;
  live: LiveHub;
  outward: Outward;
  decoders: Decoders;
  timers: Timers;
  health: StorageHealth;
  log: Logger;
  authorizations: Pick<Authorizations, 'for' | 'forget'>;
  ledger: Pick<Ledger, 'takeInFeed'>;
  bodies: Bodies;
  /** Resolves once nothing of an intake is being read anew: only then it is known what was seen. */
  settled(intakeId: string): Promise<void>;
  watch: { saw(formIds: Iterable<string>): void };
  /** Is told that deliveries were queued. */
  wake(): void;
}

/** Pages read at one time; the next reading goes on. */
const MOST_PAGES = 50;

type Rule = NonNullable<IntakeRow['feed']>;

/** Reads addresses on a timer. What was seen before is not taken again. */
export class Feeds {
  readonly #schedules = new Map<string, Schedule>();
  readonly #underWay = new Map<string, Promise<FeedReading>>();
  #isClosed = false;

  constructor(private readonly parts: FeedParts) {}

  /** Sets the timers anew: for one intake, or for all. */
  schedule(intakes: IntakeRow[] = this.parts.store.intakes.all()): void {
    for (const { id, feed, state } of intakes) {
      this.forget(id);
      if (!feed?.on || state === 'stopped') continue;
      const work = () => this.read(id);
      try {
        this.#schedules.set(id, this.parts.timers.schedule(`reading the feed of ${id}`, feed.every, work));
      } catch (error) {
        this.parts.log.error({ err: error, intake: id }, 'a feed has a schedule that can’t be followed');
      }
    }
  }

  nextAt(intakeId: string): string | null {
    const next = this.#schedules.get(intakeId)?.nextRun();
    return next ? iso(next.getTime()) : null;
  }

  forget(intakeId: string): void {
    this.#schedules.get(intakeId)?.stop();
    this.#schedules.delete(intakeId);
  }

  async close(): Promise<void> {
    this.#isClosed = true;
    for (const schedule of this.#schedules.values()) schedule.stop();
    await Promise.allSettled(this.#underWay.values());
  }

  /** Reads a feed now; a reading under way is joined. Never rejects: the reading says what went wrong. */
  read(intakeId: string): Promise<FeedReading> {
    const running = this.#underWay.get(intakeId);
    if (running) return running;
    const reading = this.parts
      .settled(intakeId)
      .then(() => this.#read(intakeId))
      .finally(() => this.#underWay.delete(intakeId));
    this.#underWay.set(intakeId, reading);
    return reading;
  }

  async #read(intakeId: string): Promise<FeedReading> {
    const { store, live, log, health } = this.parts;
    const intake = store.intakes.byId(intakeId);
    const none: FeedReading = { at: now(), cursor: null, fresh: 0, pages: 0, fault: 'It has no feed any more.' };
    if (!intake?.feed) return none;
    let reading: FeedReading;
    try {
      reading = await this.#pages(intake, intake.feed);
    } catch (error) {
      // What the end of the server broke off is read at the next time.
      if (this.#isClosed) return { ...none, fault: 'It was not read completely.' };
      // Whatever a source answers, its timer goes on.
      log.error({ err: error, intake: intakeId }, 'a feed could not be read');
      reading = {
        ...none,
        cursor: intake.feedReading?.cursor ?? null,
        fault: `It could not be read: ${(error as Error).message}`,
      };
    }
    // It may have been deleted, or let go of its feed, while it was read.
    if (!store.intakes.byId(intakeId)?.feed) return reading;
    try {
      store.intakes.update(intakeId, { feedReading: reading });
    } catch (error) {
      health.failed(error);
    }
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
    let page: Page | null = firstPage(rule, reading.cursor);
    const visited = new Set<string>();
    while (page !== null && reading.pages < MOST_PAGES && !visited.has(nameOf(page))) {
      visited.add(nameOf(page));
      const answer = await this.#ask(intake, rule, page);
      if (isFault(answer)) return { ...reading, fault: answer.message };
      const fault = faultOf(answer, intake);
      if (fault) return { ...reading, fault };
      reading.pages += 1;
      const fresh = await this.#take(intake, page.url, answer);
      reading.fresh += fresh;
      const next = nextPage(rule, page, answer, reading.pages);
      if (rule.paging === 'cursor' && next?.cursor) reading.cursor = next.cursor;
      page = fresh === 0 && (rule.newestFirst || rule.paging === 'page') ? null : next;
    }
    return reading;
  }

  /** Asks for a page; a token that was refused is fetched anew, once. */
  async #ask(intake: IntakeRow, rule: Rule, { url, body }: Page): Promise<OutwardAnswer | OutwardFault> {
    const { outward, authorizations } = this.parts;
    const sealed = { auth: feedAuth(rule), secret: intake.feedSecret };
    const ask = async () => {
      const credentials = await authorizations.for(sealed, body ?? '');
      if (isFault(credentials)) return credentials;
      const answer = await outward.send({
        method: body === null ? 'GET' : 'POST',
        url: withQuery(url, credentials.query),
        headers: {
          accept: '*/*',
          ...(body !== null && { 'content-type': 'application/json' }),
          ...Object.fromEntries(credentials.headers),
        },
        ...(body !== null && { body }),
        most: intake.sizeLimit,
      });
      return isFault(answer) ? answer : { ...answer, credentials };
    };
    const answer = await ask();
    const isRefused = !isFault(answer) && (answer.status === 401 || answer.status === 403);
    return isRefused && answer.credentials && authorizations.forget(sealed, answer.credentials) ? ask() : answer;
  }

  /** Records an answer that holds something new; gives back how many submissions of it are. */
  async #take(intake: IntakeRow, url: string, answer: OutwardAnswer): Promise<number> {
    const { live, decoders, ledger, watch, wake, bodies } = this.parts;
    const arrival = arrivalFromFeed(intake, url, answer, this.parts.outward.mask);
    const message = { body: arrival.body, file: null, contentType: arrival.contentType, url: arrival.url };
    const { submissions, state, trouble, isSure, way, isEmpty } = await decoders.whole(
      message,
      arrival.size,
      intake.pins,
    );
    const end = { state, trouble, isSure, way };
    const isLarge = arrival.size > LARGE_BODY;
    if (isLarge) await bodies.write(arrival.id, [arrival.body]);
    const outcome = await ledger
      .takeInFeed({
        arrival: isLarge ? { ...arrival, aside: true, body: arrival.body.subarray(0, KEPT_OF_LARGE) } : arrival,
        revision: intake.readingRevision,
        submissions,
        end,
        isEmpty,
      })
      .catch((error: unknown) => {
        if (isLarge) bodies.remove(arrival.id);
        throw error;
      });
    if (!outcome && isLarge) bodies.remove(arrival.id);
    if (!outcome) return 0;
    const { formIds, queued, fresh } = outcome;
    watch.saw(formIds);
    live.publish({ type: 'arrival', intakeId: intake.id, arrivalId: arrival.id, formIds });
    for (const { id, routeId } of queued) live.publish({ type: 'delivery', routeId, deliveryId: id, state: 'waiting' });
    // Read with pins that changed meanwhile, it waits to be read with those of now.
    wake();
    return fresh;
  }
}

function faultOf({ status, body, headers, cut }: OutwardAnswer, { sizeLimit }: IntakeRow): string | null {
  const said = /json|text\/plain/.test(headers['content-type'] ?? '') ? ` It said: ${body.slice(0, 200)}` : '';
  if (status === 401 || status === 403) return `The source rejected the credentials (${status}).${said}`;
  if (status >= 300) return `The source answered ${status}.${said}`;
  if (cut) return `The response is larger than this intake’s limit of ${(sizeLimit / 1e6).toFixed(1)} MB.`;
  return null;
}

/** What is asked for: an address, and what is sent to it; null for a GET. */
interface Page {
  url: string;
  body: string | null;
  cursor?: string;
}

const nameOf = ({ url, body }: Page): string => `${new URL(url).href}\n${body ?? ''}`;

/** What is sent for a page that is asked for by a value: in the address, or where a pointer says in a body. */
function pageBy({ url, method, body = '', parameter }: Rule, value: string | number | null): Page {
  const sent = method === 'POST' ? body : null;
  if (value === null) return { url, body: sent };
  if (sent === null || !parameter.startsWith('/')) {
    const address = new URL(url);
    address.searchParams.set(parameter, String(value));
    return { url: address.href, body: sent };
  }
  return { url, body: JSON.stringify(withValueAt(parseJson(sent) ?? {}, parameter, value)) };
}

function firstPage(rule: Rule, cursor: string | null): Page {
  const { paging, newestFirst } = rule;
  // Where the newest come first, every reading begins at the top.
  if (paging === 'cursor' && cursor !== null && !newestFirst) return pageBy(rule, cursor);
  return pageBy(rule, paging === 'page' ? 1 : null);
}

/** What is asked for next; null after the last page. */
function nextPage(rule: Rule, current: Page, answer: OutwardAnswer, pages: number): Page | null {
  const { url, paging, cursorAt } = rule;
  if (paging === 'page') return pageBy(rule, pages + 1);
  if (paging === 'single') return null;
  const nextCursor =
    paging === 'link' ? null : asText(valueAt(parseJson(answer.body) ?? null, cursorAt) ?? null).trim();
  if (paging === 'cursor') return nextCursor ? { ...pageBy(rule, nextCursor), cursor: nextCursor } : null;
  const next = paging === 'link' ? nextLink(answer.headers.link ?? '') : nextCursor;
  const address = next && URL.canParse(next, current.url) ? new URL(next, current.url) : null;
  // The credentials of a feed do not go to another origin.
  return address?.origin === new URL(url).origin ? { url: address.href, body: current.body } : null;
}

const arrivalFromFeed = (
  intake: IntakeRow,
  url: string,
  { bytes, headers }: OutwardAnswer,
  mask: (text: string) => string,
): ReceivedArrival =>
  newArrival(intake, {
    method: FEED,
    contentType: headers['content-type'] ?? null,
    headers: Object.entries({ 'content-location': url, ...headers }).flatMap(([name, value]): [string, string][] =>
      name === 'set-cookie' ? [] : [[name, mask(value)]],
    ),
    sender: new URL(url).hostname,
    body: bytes,
  });
