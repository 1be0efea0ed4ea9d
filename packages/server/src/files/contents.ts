import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { contentFor } from '@grammata/core/decode';
import { viaIn, type FileRef, type FileValue, type Submission } from '@grammata/core/submission';
import { credentialsOf, isMade, withQuery, type Credentials } from '@grammata/core/target';
import busboy from 'busboy';
import type { Vault } from '../access';
import type { Decoders } from '../decoding';
import {
  feedAuth,
  isFault,
  isListed,
  type Authorizations,
  type Outward,
  type OutwardFault,
  type Sealed,
} from '../outward';
import type { ArrivalRow, IntakeRow, Store } from '../store';
import { stage, TooLarge, type Staged } from './staging';

/** Why a file can't be had: for now, or for good. */
export interface FileFault {
  isPassing: boolean;
  message: string;
}

export const isFileFault = (result: Staged | FileFault): result is FileFault => 'isPassing' in result;

export interface ContentParts {
  store: Store;
  /** Where the body of an arrival lies that is too large for the database. */
  bodyFile: (arrivalId: string) => string;
  outward: Outward;
  authorizations: Authorizations;
  vault: Vault;
  decoders: Decoders;
  /** Private hosts and ranges that may be reached. */
  allowPrivate: readonly string[];
  /** Where files stand on their way. */
  folder: string;
  /** Bytes. */
  most: number;
}

/** What is given of a file that was only looked for. */
const nothing: Staged = {
  path: '',
  size: 0,
  digest: '',
  type: 'application/octet-stream',
  misstated: null,
  open: () => Readable.from([]),
  remove: () => undefined,
};

const none: Credentials = { headers: [], query: [] };

/** Gets the files of submissions: from where their links point, with the intake's credentials, or out of the message. */
export class Contents {
  constructor(private readonly parts: ContentParts) {}

  /**
   * Puts a file of a submission on disk; the caller removes it.
   * @param how whether it is had whole, or only looked for: then what is given is empty
   */
  async get(
    submissionId: string,
    data: Submission,
    index: number,
    how: 'whole' | 'look' = 'whole',
  ): Promise<Staged | FileFault> {
    const file = data.files[index];
    if (!file) return { isPassing: false, message: 'The submission has no such file.' };
    const arrival = this.arrivalOf(submissionId);
    const intake = arrival && this.parts.store.intakes.byId(arrival.intakeId);
    try {
      if (file.url !== null) return await this.fetched(file, intake ?? null, null, how);
      if (how === 'look' && arrival) return nothing;
      const staged = arrival && (await this.taken(arrival, data.files, index));
      return staged ?? { isPassing: false, message: `“${file.name}” is no longer in the message.` };
    } catch (error) {
      if (error instanceof TooLarge)
        return { isPassing: false, message: `“${file.name}” can’t be sent. ${error.message}` };
      return { isPassing: true, message: `“${file.name}” could not be read to its end: ${(error as Error).message}.` };
    }
  }

  /**
   * Puts a file on disk that is none of the submission's own: from an address, or from a target or the form builder by a path; the
   * caller removes it.
   * @param targetOf where a target is on the side that is delivered to, and how it is shown who asks
   */
  async elsewhere(
    submissionId: string,
    file: FileValue,
    targetOf: (id: string) => (Sealed & { baseUrl: string; name: string }) | null,
    how: 'whole' | 'look' = 'whole',
  ): Promise<Staged | FileFault> {
    const arrival = this.arrivalOf(submissionId);
    const intake = (arrival && this.parts.store.intakes.byId(arrival.intakeId)) ?? null;
    const via = viaIn(file.url);
    try {
      if (!via) return await this.fetched(file, intake, null, how);
      if (via.from === 'builder') {
        const base = builderOf(intake, this.parts.allowPrivate);
        if (base === null)
          return {
            isPassing: false,
            message: 'Add credentials for files to the intake: its file host is unknown.',
          };
        return await this.fetched({ ...file, url: base + via.path }, intake, null, how);
      }
      const target = targetOf(via.from);
      if (!target) return { isPassing: false, message: 'The target that holds the file was removed.' };
      return await this.fetched({ ...file, url: target.baseUrl.replace(/\/$/, '') + via.path }, null, target, how);
    } catch (error) {
      if (error instanceof TooLarge)
        return { isPassing: false, message: `${called(file)} can’t be sent. ${error.message}` };
      return { isPassing: true, message: `${called(file)} could not be read to its end: ${(error as Error).message}.` };
    }
  }

  private arrivalOf(submissionId: string): ArrivalRow | undefined {
    const { arrivals } = this.parts.store;
    const arrivalId = arrivals.arrivalOf(submissionId);
    return arrivalId === null ? undefined : arrivals.byId(arrivalId);
  }

  private async fetched(
    file: Pick<FileRef, 'name' | 'url' | 'type'>,
    intake: IntakeRow | null,
    target: (Sealed & { name: string }) | null,
    how: 'whole' | 'look',
  ): Promise<Staged | FileFault> {
    const { outward, folder, most } = this.parts;
    const url = addressOf(file.url!, intake);
    const failed = (message: string, isPassing = false): FileFault => ({
      isPassing,
      message: `${called(file)} can’t be downloaded: ${message}`,
    });
    if (url === null) return failed(`${file.url} is not a URL, only a path inside the form builder.`);
    const credentials = target
      ? await this.parts.authorizations.for(target)
      : intake
        ? await this.credentials(intake, url)
        : none;
    if (isFault(credentials)) return failed(credentials.message, credentials.code !== 'token');
    const got = await outward.download(withQuery(url, credentials.query), Object.fromEntries(credentials.headers));
    if (isFault(got)) return failed(got.message, got.code !== 'private' && got.code !== 'address');
    const { status, type, name, body } = got;
    const give = target ? `Check the credentials of ${target.name}.` : 'Add credentials for files to the intake.';
    if (status !== 200) {
      body.destroy();
      if (status === 401 || status === 403) return failed(`its URL requires credentials (${status}). ${give}`);
      if (status === 404 || status === 410) return failed(`its URL no longer exists (${status}).`);
      return failed(`its URL answered ${status}.`, status >= 500 || status === 429);
    }
    // Sign-in pages are served as if they were the file.
    if (/^text\/html/i.test(type ?? '') && !/\.html?$/i.test(file.name) && file.type !== 'text/html') {
      body.destroy();
      return failed(`its URL returns a web page, probably for signing in. ${give}`);
    }
    if (how === 'look') {
      body.destroy();
      return nothing;
    }
    return { ...(await stage(folder, body as AsyncIterable<Uint8Array>, file.type ?? type, most)), name };
  }

  /** Credentials for files go to the host they were given for, whatever a submission says; those of a feed to the feed’s own. */
  private async credentials(
    { fileAccess, fileSecret, feed, feedSecret }: IntakeRow,
    url: string,
  ): Promise<Credentials | OutwardFault> {
    const { vault, authorizations } = this.parts;
    const { host, hostname, port, protocol, origin } = new URL(url);
    // In clear they go only to machines that were listed as this network's own.
    const isSafe = protocol === 'https:' || isListed(hostname, port || '80', this.parts.allowPrivate);
    if (fileAccess?.host === host && isSafe && fileSecret && !isMade(fileAccess.auth))
      return credentialsOf(fileAccess.auth, vault.open(fileSecret));
    if (!feed || !feedSecret || new URL(feed.url).origin !== origin) return none;
    return authorizations.for({ auth: feedAuth(feed), secret: feedSecret });
  }

  /** Out of the message it came in. */
  private async taken(arrival: ArrivalRow, files: readonly FileRef[], index: number): Promise<Staged | null> {
    const { bodyFile, folder, most } = this.parts;
    const stated = files[index]!.type;
    const file = arrival.aside ? bodyFile(arrival.id) : null;
    if (file !== null && /^multipart\/form-data\s*;/i.test(arrival.contentType ?? ''))
      return takeFromFile(file, arrival.contentType ?? '', files, index, { folder, most });
    const body = file === null ? this.parts.store.arrivals.bodyOf(arrival.id) : new Uint8Array();
    const message = { body, file, contentType: arrival.contentType };
    const content = await this.parts.decoders.content(message, arrival.size, files, index);
    return content === null ? null : stage(folder, [content.bytes], stated, most);
  }
}

/** A file in words. */
const called = ({ name }: Pick<FileRef, 'name'>) => (name === '' ? 'A file' : `“${name}”`);

/** Where a form builder has its API: where its files are, or its feed. */
function builderOf(intake: IntakeRow | null, allowPrivate: readonly string[]): string | null {
  if (intake?.fileAccess) {
    const { host } = intake.fileAccess;
    const { hostname, port } = new URL(`http://${host}`);
    // Only machines that were listed as this network's own are spoken to in clear.
    return `${isListed(hostname, port || '80', allowPrivate) ? 'http' : 'https'}://${host}`;
  }
  return intake?.feed ? new URL(intake.feed.url).origin : null;
}

/** A link as an address: one without a host starts at the place the feed is read from. */
function addressOf(url: string, intake: IntakeRow | null): string | null {
  if (/^https?:/i.test(url)) return url;
  return intake?.feed && URL.canParse(url, intake.feed.url) ? new URL(url, intake.feed.url).href : null;
}

/** Takes one file out of a multipart body that lies on disk, bit by bit. */
async function takeFromFile(
  file: string,
  contentType: string,
  files: readonly FileRef[],
  index: number,
  { folder, most }: { folder: string; most: number },
): Promise<Staged | null> {
  const parser = busboy({ headers: { 'content-type': contentType }, defParamCharset: 'utf8' });
  const wanted = files[index]!;
  const staging: Promise<Staged | Error>[] = [];
  parser.on('file', (_name, stream, { filename, mimeType }) => {
    if ((filename || 'file') !== wanted.name) return void stream.resume();
    staging.push(
      stage(folder, stream as AsyncIterable<Uint8Array>, mimeType, most).catch(
        (error: Error) => (stream.resume(), error),
      ),
    );
  });
  try {
    await pipeline(createReadStream(file), parser);
  } catch (error) {
    // What was staged of a message that breaks off is of no use.
    for (const each of await Promise.all(staging)) if (!(each instanceof Error)) each.remove();
    throw error;
  }
  const staged = await Promise.all(staging);
  const whole = staged.filter((each): each is Staged => !(each instanceof Error));
  const at = contentFor(
    files,
    index,
    whole.map(({ size, type }) => ({ name: wanted.name, type, size })),
  );
  whole.forEach((each, place) => place !== at && each.remove());
  const fault = staged.find(each => each instanceof Error);
  if (at < 0 && fault) throw fault;
  return whole[at] ?? null;
}
