import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { usualPace, type Pace, type Patience } from '@grammata/core/perform';
import {
  bodyText,
  copiesIn,
  partParameter,
  partsOfBody,
  standIn,
  wireText,
  withCopyLinks,
  type PlannedFile,
  type RequestPlan,
} from '@grammata/core/request';
import { fileIndex, withValueAt, type Json, type Submission } from '@grammata/core/submission';
import { MASK, withQuery } from '@grammata/core/target';
import { isFileFault, RowFault, type Contents, type Copies, type RowFiles, type Staged } from '../files';
import {
  isFault,
  maskedFor,
  type Authorizations,
  type Outward,
  type OutwardAnswer,
  type OutwardFault,
  type Sealed,
} from '../outward';
import type { Send } from './layers';
import type { Postman } from './postman';

export interface CourierParts {
  outward: Outward;
  authorizations: Authorizations;
  contents: Contents;
  copies: Copies;
  postman: Postman;
  rows: RowFiles;
  /** The layers that a request goes through on its way out. */
  send: Send;
}

/** What a request is sent for. */
export interface Errand {
  submissionId: string;
  data: Submission;
  idempotencyKey: string;
  target: { id: string; name: string; pace: Pace | null };
  /** Where it goes and how that is shown who asks. */
  side: Sealed & { baseUrl: string };
  /** How long the answer is waited for. */
  patience?: Patience | null;
  /** The names of the operation's fields, in their order. */
  columns: string[];
  /** Whether a file of rows gets columns that it lacks. */
  grows?: boolean;
}

export interface Carried {
  result: OutwardAnswer | OutwardFault;
  /** The message as it went out, secrets masked. */
  recorded: string;
}

/** How long a link to a copy is good, in days. */
const COPY_DAYS = 30;
/** Most bytes of files that stand inside a text in base64, or that are signed: those are held in memory. */
const MOST_IN_MEMORY = 20_000_000;

/** Carries a planned request out: puts in files, links and credentials, and sends it. */
export class Courier {
  constructor(private readonly parts: CourierParts) {}

  async carry(plan: RequestPlan, errand: Errand): Promise<Carried> {
    const staged = new Map<number, Staged>();
    try {
      const fault = await this.#stageAll(plan, errand, staged);
      if (fault) return { result: fault, recorded: this.#recorded(plan, errand, staged) };
      const links = new Map<number, string>();
      for (const index of copiesIn(bodyText(plan) + plan.url)) {
        const purpose = `${errand.idempotencyKey}/${index}`;
        links.set(
          index,
          this.parts.copies.keep(staged.get(index)!, errand.data.files[index]!.name, purpose, COPY_DAYS),
        );
        staged.delete(index);
      }
      const linked = (text: string) => withCopyLinks(text, index => links.get(index) ?? '');
      const keyed = { ...errand, idempotencyKey: keyOf(plan, errand, staged, linked) };
      const recorded = this.#recorded(
        plan,
        keyed,
        staged,
        index => links.get(index)?.replace(/sig=.*$/, `sig=${MASK}`) ?? '',
      );
      const at = (file: PlannedFile) => staged.get(fileIndex(errand.data, file.file))!;
      const result = await this.parts.send({
        target: { ...errand.target, side: errand.side, pace: errand.target.pace ?? usualPace },
        carry: async () => {
          if (plan.encoding === 'mail') return this.parts.postman.post(plan, keyed, at, linked);
          if (plan.url.startsWith('file:')) return this.#append(plan, errand);
          return this.#overHttp(plan, keyed, at, linked);
        },
      });
      return { result, recorded };
    } finally {
      staged.forEach(each => each.remove());
    }
  }

  /** Gets every file that goes along or is linked to by a copy; each once. */
  async #stageAll(plan: RequestPlan, errand: Errand, staged: Map<number, Staged>): Promise<OutwardFault | null> {
    const along = plan.files.map(each => fileIndex(errand.data, each.file));
    const asText = plan.files.filter(each => each.as === 'base64');
    for (const index of new Set([...along, ...copiesIn(bodyText(plan) + plan.url)])) {
      const got = await this.parts.contents.get(errand.submissionId, errand.data, index);
      if (isFileFault(got)) return { code: got.isPassing ? 'other' : 'file', message: got.message, milliseconds: 0 };
      staged.set(index, got);
    }
    const inMemory = asText.reduce((sum, each) => sum + staged.get(fileIndex(errand.data, each.file))!.size, 0);
    if (inMemory <= MOST_IN_MEMORY) return null;
    const message = `Its files are ${Math.round(inMemory / 1e6)} MB; in base64 at most ${MOST_IN_MEMORY / 1e6} MB are sent.`;
    return { code: 'file', message, milliseconds: 0 };
  }

  /** A row for a file on the own disk. A row that was appended before a crash may be appended again: files know no keys. */
  #append(plan: RequestPlan, { columns, grows }: Errand): OutwardAnswer | OutwardFault {
    try {
      const size = this.parts.rows.append(plan.url, plan.body, columns, grows);
      const body = `${size} bytes appended.`;
      return { status: 200, headers: {}, bytes: Buffer.from(body), body, isMasked: false, cut: false, milliseconds: 0 };
    } catch (error) {
      return { code: error instanceof RowFault ? 'file' : 'other', message: (error as Error).message, milliseconds: 0 };
    }
  }

  async #overHttp(
    plan: RequestPlan,
    errand: Errand,
    at: (file: PlannedFile) => Staged,
    linked: (text: string) => string,
  ): Promise<OutwardAnswer | OutwardFault> {
    const { outward, authorizations } = this.parts;
    // Whatever a plan says, what is shown to a target goes to that target.
    if (new URL(plan.url).origin !== new URL(errand.side.baseUrl).origin)
      return { code: 'address', message: 'The address is not one of this target.', milliseconds: 0 };
    const { body, headers } = await bodyOf(plan, errand.idempotencyKey, at, linked);
    const signs = errand.side.auth.kind === 'hmac' || errand.side.auth.kind === 'webhook';
    const whole = signs && body instanceof Readable ? await gathered(body) : body;
    if (whole === null && body instanceof Readable) body.destroy();
    if (whole === null) return { code: 'file', message: 'It is too large to be signed.', milliseconds: 0 };
    const toSign = whole instanceof Readable ? '' : whole;
    const credentials = await authorizations.for(errand.side, toSign, errand.idempotencyKey);
    if (isFault(credentials)) {
      if (whole instanceof Readable) whole.destroy();
      return credentials;
    }
    return outward.send({
      method: plan.method,
      url: linked(withQuery(plan.url, credentials.query)),
      headers: {
        ...Object.fromEntries(plan.headers),
        ...headers,
        ...Object.fromEntries(keyHeader(plan, errand)),
        ...Object.fromEntries(credentials.headers),
      },
      ...(whole === '' ? {} : { body: whole }),
      patience: errand.patience ?? null,
    });
  }

  /** The message as people see it: files by what they are, secrets masked. */
  #recorded(
    plan: RequestPlan,
    errand: Errand,
    staged: ReadonlyMap<number, Staged>,
    linkFor: (index: number) => string = index => `‹link to ${errand.data.files[index]?.name ?? 'a file'}›`,
  ): string {
    const masked = maskedFor(errand.side);
    let text = wireText(plan, [...masked.headers, ...keyHeader(plan, errand)], masked.query);
    for (const { file, name } of plan.files) {
      const got = staged.get(fileIndex(errand.data, file));
      if (got)
        text = text.replace(standIn(name), () =>
          standIn(`${name}, ${got.size} bytes, ${typeWords(got)}, SHA-256 ${got.digest}`),
        );
    }
    return withCopyLinks(text, linkFor);
  }
}

/** A file's type by its bytes, and what was said of it where that is another. */
const typeWords = ({ type, misstated }: Staged) => (misstated === null ? type : `${type} (said to be ${misstated})`);

/** Requests that write are told apart by a key; those that read may be made as often as one likes (RFC 9110 §9.2.2). */
const keyHeader = ({ method }: RequestPlan, { idempotencyKey }: Errand): [string, string][] =>
  method === 'GET' ? [] : [['idempotency-key', idempotencyKey]];

/**
 * The key of a request: the same for every try of the same request, another for any other request (draft-ietf-httpapi-
 * idempotency-key-header §2.2: a key is not used again with another payload). What makes it the same is its method, its
 * address, its headers, its body, and the content of its files.
 */
function keyOf(
  plan: RequestPlan,
  errand: Errand,
  staged: ReadonlyMap<number, Staged>,
  linked: (text: string) => string,
): string {
  const files = plan.files.map(({ file, pointer }) => [pointer, staged.get(fileIndex(errand.data, file))?.digest]);
  const request = JSON.stringify([plan.method, linked(plan.url), plan.headers, linked(bodyText(plan)), files]);
  return `${errand.idempotencyKey}-${createHash('sha256').update(request).digest('hex').slice(0, 16)}`;
}

/** The body as it goes out, and headers that only it knows. */
async function bodyOf(
  plan: RequestPlan,
  key: string,
  at: (file: PlannedFile) => Staged,
  linked: (text: string) => string,
): Promise<{ body: string | Readable; headers: Record<string, string> }> {
  const [only] = plan.files;
  if (plan.encoding === 'multipart') return multipart(plan, key, at, linked);
  if (plan.encoding === 'raw' && only) {
    const { type, size, open } = at(only);
    return { body: open(), headers: { 'content-type': type, 'content-length': String(size) } };
  }
  const body = await plan.files.reduce<Promise<Json>>(
    async (before, each) => {
      const content = (await gathered(at(each).open()))!.toString('base64');
      return withValueAt(await before, each.pointer, content);
    },
    Promise.resolve(structuredClone(plan.body)),
  );
  return { body: linked(bodyText({ ...plan, body })), headers: {} };
}

/** A form in parts (RFC 7578), its files read from disk as they go; the boundary is the same at each try. */
function multipart(
  plan: RequestPlan,
  key: string,
  at: (file: PlannedFile) => Staged,
  linked: (text: string) => string,
) {
  const boundary = `part-${createHash('sha256').update(key).digest('hex').slice(0, 40)}`;
  const end = Buffer.from(`--${boundary}--\r\n`);
  const parts = partsOfBody(plan).map(part => {
    const head = `--${boundary}\r\ncontent-disposition: form-data; name="${partParameter(part.name)}"`;
    if ('text' in part) return { head: Buffer.from(`${head}\r\n\r\n${linked(part.text)}\r\n`), file: null };
    const file = at(part.file);
    const named = `${head}; filename="${partParameter(part.file.name)}"\r\ncontent-type: ${file.type}\r\n\r\n`;
    return { head: Buffer.from(named), file };
  });
  const size = parts.reduce((sum, { head, file }) => sum + head.length + (file ? file.size + 2 : 0), end.length);
  async function* chunks(): AsyncGenerator<Uint8Array> {
    for (const { head, file } of parts) {
      yield head;
      if (!file) continue;
      // Let go of in the middle, it is closed; where it can't be read, whoever sends hears of it.
      for await (const chunk of file.open()) yield chunk as Uint8Array;
      yield Buffer.from('\r\n');
    }
    yield end;
  }
  const headers = { 'content-type': `multipart/form-data; boundary=${boundary}`, 'content-length': String(size) };
  return { body: Readable.from(chunks(), { objectMode: false }), headers };
}

/** A stream as bytes; null when it is more than is held in memory. */
async function gathered(stream: Readable): Promise<Buffer | null> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of stream) {
    chunks.push(Buffer.from(chunk as Uint8Array));
    size += chunks.at(-1)!.length;
    if (size > MOST_IN_MEMORY * 1.4) return null;
  }
  return Buffer.concat(chunks);
}
