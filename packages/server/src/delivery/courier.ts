import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { usualPace, type Pace, type Patience } from '@grammata/core/perform';
import {
  bodyText,
  copiesIn,
  namesOf,
  safeFileName,
  partParameter,
  partsOfBody,
  standIn,
  wireText,
  withCopyLinks,
  type PlannedFile,
  type RequestPlan,
} from '@grammata/core/request';
import {
  fileIndex,
  isJsonObject,
  pointerOf,
  tokensOf,
  valueAt,
  withValueAt,
  type Json,
  type JsonObject,
  type Submission,
} from '@grammata/core/submission';
import { MASK, withQuery } from '@grammata/core/target';
import {
  isFileFault,
  RowFault,
  type FileFault,
  type Contents,
  type Copies,
  type RowFiles,
  type Staged,
} from '../files';
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
  /** True where it only reads what was written. */
  readsBack?: boolean;
  /** Where it goes and how that is shown who asks. */
  side: Sealed & { baseUrl: string };
  /** Where another target is on the same side, for files that are had from it. */
  sideOf?: (targetId: string) => (Sealed & { baseUrl: string; name: string }) | null;
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
  /** Files that it went without, since they can't be had: a sentence each. */
  lost: string[];
}

/** How long a link to a copy is good, in days. */
const COPY_DAYS = 30;
/** Most bytes of files that stand inside a text in base64, or that are signed: those are held in memory. */
const MOST_IN_MEMORY = 20_000_000;

/** Carries a planned request out: puts in files, links and credentials, and sends it. */
export class Courier {
  constructor(private readonly parts: CourierParts) {}

  /** A text without the secrets that are known, to be kept or shown. */
  mask(text: string): string {
    return this.parts.outward.mask(text);
  }

  async carry(given: RequestPlan, errand: Errand): Promise<Carried> {
    const staged = new Map<string, Staged>();
    try {
      const { plan, lost, fault } = await this.#stageAll(given, errand, staged);
      // Rendered once: what is sent, what is recorded, and the key come from this.
      const text = bodyText(plan);
      if (fault) return { result: fault, recorded: this.#recorded(plan, text, errand, staged), lost };
      const links = new Map<number, string>();
      for (const index of copiesIn(text + plan.url)) {
        const purpose = `${errand.idempotencyKey}/${index}`;
        const { name } = errand.data.files[index]!;
        links.set(
          index,
          await this.parts.copies.keep(staged.get(own(index))!, name, errand.submissionId, purpose, COPY_DAYS),
        );
      }
      const linked = (part: string) => withCopyLinks(part, index => links.get(index) ?? '');
      const keyed = { ...errand, idempotencyKey: keyOf(plan, text, errand, staged, linked) };
      const recorded = this.#recorded(
        plan,
        text,
        keyed,
        staged,
        index => links.get(index)?.replace(/sig=.*$/, `sig=${MASK}`) ?? '',
      );
      const at = (file: PlannedFile) => staged.get(placeOf(errand.data, file))!;
      const result = await this.parts.send({
        target: { ...errand.target, side: errand.side, pace: errand.target.pace ?? usualPace },
        readsBack: errand.readsBack,
        carry: async () => {
          if (plan.encoding === 'mail') return this.parts.postman.post(plan, keyed, at, linked);
          if (plan.url.startsWith('file:')) return this.#append(plan, errand);
          return this.#overHttp(plan, linked(text), keyed, at, linked);
        },
      });
      return { result, recorded, lost };
    } finally {
      staged.forEach(each => each.remove());
    }
  }

  /**
   * Why a request could not go for want of its files, before anything is sent: each is asked for and let go of again. Null where all
   * can be had, or go without saying.
   */
  async filesFault(
    { files }: RequestPlan,
    errand: Pick<Errand, 'submissionId' | 'data' | 'sideOf'>,
  ): Promise<OutwardFault | null> {
    for (const file of files) {
      // Where it is had is known only once an earlier call was answered.
      if (file.whenLost === 'leaveOut' || /‹|%E2%80%B9/.test(file.file.url ?? '')) continue;
      const fault = await this.#get(file, errand, 'look');
      if (isFileFault(fault)) return faultOf(fault);
      fault.remove();
    }
    return null;
  }

  #get(
    { file }: PlannedFile,
    { submissionId, data, sideOf = () => null }: Pick<Errand, 'submissionId' | 'data' | 'sideOf'>,
    how: 'whole' | 'look' = 'whole',
  ) {
    const index = fileIndex(data, file);
    return index >= 0
      ? this.parts.contents.get(submissionId, data, index, how)
      : this.parts.contents.elsewhere(submissionId, file, sideOf, how);
  }

  /**
   * Gets every file that goes along or is linked to by a copy; each once. One that can't be had is left out of the plan where its line
   * says so.
   */
  async #stageAll(
    plan: RequestPlan,
    errand: Errand,
    staged: Map<string, Staged>,
  ): Promise<{ plan: RequestPlan; lost: string[]; fault: OutwardFault | null }> {
    const lost: string[] = [];
    const gone = new Set<PlannedFile>();
    for (const file of plan.files) {
      const place = placeOf(errand.data, file);
      if (staged.has(place)) continue;
      const got = await this.#get(file, errand);
      if (!isFileFault(got)) staged.set(place, got);
      else if (got.isPassing || file.whenLost === 'stop') return { plan, lost, fault: faultOf(got) };
      else {
        gone.add(file);
        lost.push(got.message);
      }
    }
    for (const index of copiesIn(bodyText(plan) + plan.url)) {
      if (staged.has(own(index))) continue;
      const got = await this.parts.contents.get(errand.submissionId, errand.data, index);
      if (isFileFault(got)) return { plan, lost, fault: faultOf(got) };
      staged.set(own(index), got);
    }
    const whole = withFiles(
      plan,
      plan.files.filter(each => !gone.has(each)),
      file => staged.get(placeOf(errand.data, file))!,
    );
    // A request that is nothing but the file is not made without it.
    if (gone.size > 0 && plan.encoding === 'raw')
      return { plan: whole, lost, fault: { code: 'file', message: lost.join(' '), milliseconds: 0 } };
    const inMemory = whole.files
      .filter(each => each.as === 'base64')
      .reduce((sum, each) => sum + staged.get(placeOf(errand.data, each))!.size, 0);
    if (inMemory <= MOST_IN_MEMORY) return { plan: whole, lost, fault: null };
    const message = `Its files are ${Math.round(inMemory / 1e6)} MB; in base64 at most ${MOST_IN_MEMORY / 1e6} MB are sent.`;
    return { plan: whole, lost, fault: { code: 'file', message, milliseconds: 0 } };
  }

  /** A row for a file on the own disk. A row that was appended before a crash may be appended again: files know no keys. */
  #append(plan: RequestPlan, { columns, grows }: Errand): OutwardAnswer | OutwardFault {
    try {
      const size = this.parts.rows.append(plan.url, plan.body, columns, grows);
      const body = `${size} bytes appended.`;
      return { status: 200, headers: {}, bytes: Buffer.from(body), body, shown: body, cut: false, milliseconds: 0 };
    } catch (error) {
      return { code: error instanceof RowFault ? 'file' : 'other', message: (error as Error).message, milliseconds: 0 };
    }
  }

  async #overHttp(
    plan: RequestPlan,
    text: string,
    errand: Errand,
    at: (file: PlannedFile) => Staged,
    linked: (text: string) => string,
  ): Promise<OutwardAnswer | OutwardFault> {
    const { outward, authorizations } = this.parts;
    // Whatever a plan says, what is shown to a target goes to that target.
    if (!isAt(plan.url, errand.side.baseUrl))
      return { code: 'address', message: 'The URL does not belong to this target.', milliseconds: 0 };
    const { body, headers } = await bodyOf(plan, text, errand.idempotencyKey, at, linked);
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
    const answer = await outward.send({
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
    return isFault(answer) ? answer : { ...answer, credentials };
  }

  /** The message as people see it: files by what they are, secrets masked. */
  #recorded(
    plan: RequestPlan,
    body: string,
    errand: Errand,
    staged: ReadonlyMap<string, Staged>,
    linkFor: (index: number) => string = index => `‹link to ${errand.data.files[index]?.name ?? 'a file'}›`,
  ): string {
    const masked = maskedFor(errand.side);
    let text = wireText(plan, [...masked.headers, ...keyHeader(plan, errand)], masked.query, body);
    for (const { file, name } of plan.files) {
      const got = staged.get(placeOf(errand.data, { file }));
      if (got)
        text = text.replace(standIn(name), () =>
          standIn(`${name}, ${got.size} bytes, ${typeWords(got)}, SHA-256 ${got.digest}`),
        );
    }
    return this.mask(withCopyLinks(text, linkFor));
  }
}

/** Whether an address is at the same origin as another; most begin with it as it is written. */
const isAt = (url: string, base: string): boolean =>
  (url.startsWith(base) && /^https?:\/\/[^/?#@\\]+\//.test(base)) || new URL(url).origin === new URL(base).origin;

/** Under what a file is staged: its place among the submission's, or where it is had. */
const own = (index: number): string => `#${index}`;
const placeOf = (data: Submission, { file }: Pick<PlannedFile, 'file'>): string => {
  const index = fileIndex(data, file);
  return index >= 0 ? own(index) : `${file.url} ${file.name}`;
};

const faultOf = ({ isPassing, message }: FileFault): OutwardFault => ({
  code: isPassing ? 'other' : 'file',
  message,
  milliseconds: 0,
});

/** The plan with these of its files; those that had no name have the one that whoever gave them calls them by. */
function withFiles(plan: RequestPlan, kept: readonly PlannedFile[], at: (file: PlannedFile) => Staged): RequestPlan {
  if (plan.files.length === 0) return plan;
  const files = kept.map(each => (each.file.name === '' ? { ...each, name: safeFileName(at(each).name ?? '') } : each));
  let { body } = plan;
  for (const pointer of new Set(plan.files.map(each => each.pointer))) {
    const here = files.filter(each => each.pointer === pointer);
    if (pointer === '') continue;
    body = here.length > 0 ? withValueAt(body, pointer, namesOf(here)) : withoutPlace(body, pointer);
  }
  return { ...plan, body, files };
}

/** A body without what stands at a place. */
function withoutPlace(body: Json, pointer: string): Json {
  const tokens = tokensOf(pointer);
  const parent = valueAt(body, pointerOf(tokens.slice(0, -1)));
  if (!isJsonObject(parent ?? null)) return body;
  const { [tokens.at(-1)!]: _gone, ...others } = parent as JsonObject;
  return tokens.length === 1 ? others : withValueAt(body, pointerOf(tokens.slice(0, -1)), others);
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
  text: string,
  errand: Errand,
  staged: ReadonlyMap<string, Staged>,
  linked: (text: string) => string,
): string {
  const files = plan.files.map(({ file, pointer }) => [pointer, staged.get(placeOf(errand.data, { file }))?.digest]);
  const body = isOfBefore(errand) ? bodyText(plan, 2) : text;
  const request = JSON.stringify([plan.method, linked(plan.url), plan.headers, linked(body), files]);
  return `${errand.idempotencyKey}-${createHash('sha256').update(request).digest('hex').slice(0, 16)}`;
}

/**
 * True for a submission of a version whose bodies were indented: a try that began then goes on under its key. Its identifier does not
 * say its place in an arrival yet (`ledger/identity`).
 */
const isOfBefore = ({ submissionId }: Errand): boolean => submissionId.length === 23;

/** The body as it goes out, and headers that only it knows. */
async function bodyOf(
  plan: RequestPlan,
  text: string,
  key: string,
  at: (file: PlannedFile) => Staged,
  linked: (text: string) => string,
): Promise<{ body: string | Readable; headers: Record<string, string> }> {
  const [only] = plan.files;
  if (plan.encoding === 'multipart') return multipart(plan, key, at, linked);
  if (!only) return { body: text, headers: {} };
  if (plan.encoding === 'raw') {
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
