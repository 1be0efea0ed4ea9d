import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { newLine, ROUTE_FORMAT, usualTerms, type Line, type RouteDefinition } from '@grammata/core/route';
import { createTransport } from 'nodemailer';
import { json, startAnswering, type Answering } from './testing/answering';
import { Mirror } from './testing/powerCuts';
import { eventually, startServer, type Client } from './testing/running';

// Power fails at random moments, under load and on a quiet server with a slow target. Whatever was acknowledged before is delivered by
// a server that starts from what is on disk then; nothing goes under two keys, no key is used for two requests, no file is empty.

/** How often; `CUTS=200` for the long form. */
const CUTS = Number(process.env.CUTS ?? 4);
/** ms that the target takes at most to answer. */
const SLOW = 250;

/** A target that counts the keys under which each thing was asked of it, and finds nothing that was made before. */
class CountingTarget {
  readonly keys = new Map<string, Set<string>>();
  readonly usedTwice: string[] = [];
  readonly #known = new Map<string, { print: string; answer: object }>();
  readonly #ofId = new Map<string, string>();
  server!: Answering;

  async start(): Promise<void> {
    this.server = await startAnswering((heard, response) => {
      const key = String(heard.headers['idempotency-key']);
      const print = createHash('sha256').update(`${heard.method} ${heard.url}\n`).update(heard.body).digest('hex');
      const before = this.#known.get(key);
      if (before && before.print !== print) this.usedTwice.push(key);
      const answer = before?.answer ?? this.#make(heard.url, heard.body.toString('latin1'));
      this.#known.set(key, { print, answer });
      const [, , id, files] = heard.url.split('/');
      const file = /filename="([^"]*)"/.exec(heard.body.toString('latin1'))?.[1];
      const what = files ? `${this.#ofId.get(id!)} ${file}` : this.#ofId.get((answer as { id: string }).id)!;
      this.keys.set(what, (this.keys.get(what) ?? new Set()).add(key));
      const wait = AbortSignal.timeout(1 + Math.floor(Math.random() * SLOW));
      wait.addEventListener('abort', () => json(response, 201, answer));
    });
  }

  #make(url: string, body: string): { id: string } {
    if (url.endsWith('/files')) return { id: 'file' };
    const id = `T${this.#ofId.size + 1}`;
    this.#ofId.set(id, (JSON.parse(body) as { n: string }).n);
    return { id };
  }
}

const json200 = (schema: object) => ({ description: 'ok', content: { 'application/json': { schema } } });
const thing = { type: 'object', properties: { id: { type: 'string' } } };
const document = {
  openapi: '3.1.0',
  info: { title: 'Counter', version: '1' },
  paths: {
    '/things': {
      post: {
        operationId: 'make',
        requestBody: {
          content: {
            'application/json': {
              schema: {
                type: 'object',
                required: ['n'],
                properties: { n: { type: 'string' }, link: { type: 'string' } },
              },
            },
          },
        },
        responses: { 201: json200(thing) },
      },
    },
    '/things/{id}/files': {
      parameters: [{ in: 'path', name: 'id', required: true, schema: { type: 'string' } }],
      post: {
        operationId: 'attach',
        requestBody: {
          content: {
            'multipart/form-data': {
              schema: {
                type: 'object',
                required: ['file'],
                properties: { file: { type: 'string', contentMediaType: '*/*' } },
              },
            },
          },
        },
        responses: { 201: json200(thing) },
      },
    },
  },
};

const line = (to: string, field: string, more: Partial<Line> = {}): Line => ({
  ...newLine(`l-${to}`, to),
  source: { from: 'field', field },
  ...more,
});

/** A server with intakes of every kind, live routes to the target, and a builder that has files and a feed. */
class World {
  readonly target = new CountingTarget();
  dataDir = mkdtempSync(path.join(tmpdir(), 'grammata-power-'));
  mirror = new Mirror(this.dataDir);
  readonly acknowledged = new Set<string>();
  entries: object[] = [];
  builder!: Answering;
  client!: Client;
  addresses!: { posts: string; mail: string; feedId: string; postsId: string };
  #count = 0;
  /** How often a server began. */
  #lives = 0;

  async start(): Promise<void> {
    await this.target.start();
    this.builder = await startAnswering((heard, response) => {
      if (heard.url.startsWith('/rows')) return json(response, 200, this.entries);
      response.writeHead(200, { 'content-type': 'image/gif' }).end(`GIF89a ${heard.url}`);
    });
    await this.#begin();
    const { store } = this.client.running.services;
    const feed = {
      url: `${this.builder.url}/rows`,
      every: '0 0 1 1 *',
      on: true,
      auth: 'none' as const,
      name: '',
      paging: 'single' as const,
      parameter: '',
      cursorAt: '',
      newestFirst: false,
    };
    const [posts, mails, rows] = [
      store.intakes.create({ name: 'Posts' }),
      store.intakes.create({ name: 'Mails' }),
      store.intakes.create({ name: 'Rows', feed: feed as never }),
    ];
    this.addresses = {
      posts: `/in/${posts.slug}`,
      mail: `${mails.slug}@forms.example.org`,
      feedId: rows.id,
      postsId: posts.id,
    };
    const { id: targetId } = (
      await this.client.call<{ id: string }>('POST', '/targets', {
        name: 'Counter',
        baseUrl: this.target.server.url,
        reads: 'openapi',
        document: JSON.stringify(document),
      })
    ).json;
    // The first of each makes its form.
    await this.post('first');
    await this.mail('first');
    await this.feed('first');
    const forms = await eventually(
      () => store.forms.heads(),
      all => all.length === 3,
    );
    const link = line('link', 'photos', {
      copies: true,
      cleaning: [
        { id: 'files.part', params: { give: 'url' } },
        { id: 'list.join', params: { separator: ' ' } },
      ],
    });
    for (const { form } of forms) {
      const isPosts = form.intakeId === posts.id;
      const n = form.intakeId === mails.id ? 'Site' : 'n';
      const make = { id: 'make', targetId, operationId: 'make', lines: [line('n', n), ...(isPosts ? [link] : [])] };
      const attach = {
        id: 'attach',
        targetId,
        operationId: 'attach',
        repeat: 'photos',
        lines: [line('id', '@answer/make/id'), line('file', '@item')],
      };
      const { id } = store.routes.create(form.id, {
        format: ROUTE_FORMAT,
        name: form.name,
        condition: { all: [] },
        calls: isPosts ? [make, attach] : [make],
        terms: usualTerms,
      } as RouteDefinition);
      store.routes.goLive(id);
    }
    this.acknowledged.clear();
  }

  async #begin(): Promise<void> {
    await this.mirror.install();
    this.client = await startServer({ dataDir: this.dataDir, mail: { port: 0, domain: 'forms.example.org' } });
  }

  /** Power fails: from now on this server sends and acknowledges nothing. Another one starts from what is on disk. */
  async cut(): Promise<void> {
    const before = { client: this.client, dataDir: this.dataDir };
    this.#lives += 1;
    this.dataDir = this.mirror.cut();
    this.mirror.remove();
    const fault = { code: 'dropped' as const, message: 'There is no power.', milliseconds: 0 };
    before.client.running.services.outward.send = async () => fault;
    await before.client.stop();
    rmSync(before.dataDir, { recursive: true, force: true });
    this.mirror = new Mirror(this.dataDir);
    await this.#begin();
  }

  #acknowledge(n: string, lives: number): void {
    if (lives === this.#lives) this.acknowledged.add(n);
  }

  /** Something arrives, by one way or another; it counts as acknowledged once that was said. */
  async arrive(): Promise<void> {
    const n = (this.#count += 1);
    const ways = [this.post, this.post, this.post, this.mail, this.feed, this.upload];
    await ways[n % ways.length]!.call(this, `n${n}`);
  }

  async post(n: string): Promise<void> {
    const lives = this.#lives;
    const photos = ['a', 'b'].map(name => ({
      name: `${n}-${name}.gif`,
      url: `${this.builder.url}/${n}-${name}.gif`,
      size: 9,
      type: 'image/gif',
    }));
    // Some state no identifier, some come again before they are answered.
    const identified = n.endsWith('1') ? {} : { submission_id: n };
    const body = JSON.stringify({ ...identified, n, note: 'x'.repeat(n.endsWith('2') ? 1_500_000 : 20), photos });
    const send = () =>
      fetch(this.client.url + this.addresses.posts, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
      });
    const answers = await Promise.all(n.endsWith('3') ? [send(), send()] : [send()]);
    if (answers.every(each => each.status === 202)) this.#acknowledge(n, lives);
  }

  async mail(n: string): Promise<void> {
    const lives = this.#lives;
    const transport = createTransport({ host: '127.0.0.1', port: this.client.running.mailPort!, ignoreTLS: true });
    await transport.sendMail({
      from: 'forms@example.org',
      to: this.addresses.mail,
      subject: 'Visit',
      text: `Site: ${n}\nSchool: Fernhollow\nPupils: 24`,
    });
    this.#acknowledge(n, lives);
  }

  async feed(n: string): Promise<void> {
    this.entries = [...this.entries, { id: n, n, gate: 'north', who: 'Wen Xiu' }].slice(-5);
    const lives = this.#lives;
    const reading = await this.client.running.services.feeds.read(this.addresses.feedId);
    if (reading.fault === null) this.#acknowledge(n, lives);
  }

  async upload(n: string): Promise<void> {
    const file = `n,site\n${n},AB-07\n`;
    await this.client.upload(`/intakes/${this.addresses.postsId}/upload?name=past.csv`, file);
  }

  async stop(): Promise<void> {
    this.mirror.remove();
    await this.client.stop();
    await Promise.all([this.target.server.stop(), this.builder.stop()]);
    rmSync(this.dataDir, { recursive: true, force: true });
  }
}

let world: World;
beforeAll(async () => {
  world = new World();
  await world.start();
});
afterAll(() => world.stop());

test(
  `${CUTS} power cuts`,
  async () => {
    const lost: string[] = [];
    const empty: string[] = [];
    const delivered = new Set<string>();
    for (let cut = 0; cut < CUTS; cut++) {
      // Every second time nothing flushes what was not: one thing arrives, and then it is quiet.
      const many = cut % 2 === 0 ? 12 : 1;
      const arriving = Array.from({ length: many }, () => world.arrive().catch(() => undefined));
      if (many === 1) await Promise.all(arriving);
      await new Promise(resolve =>
        AbortSignal.timeout(1 + Math.floor(Math.random() * 400)).addEventListener('abort', resolve),
      );
      await world.cut();
      await Promise.all(arriving);
      const { store } = world.client.running.services;
      // What is left over of something that was not acknowledged is swept; what is known has its content.
      for (const part of ['bodies', 'copies'] as const)
        for (const name of readdirSync(path.join(world.dataDir, part))) {
          const isKnown = part === 'bodies' ? store.arrivals.has(name) : store.copies.byId(name) !== undefined;
          if (isKnown && statSync(path.join(world.dataDir, part, name)).size === 0) empty.push(name);
        }
      const isDelivered = (n: string) =>
        store.deliveries
          .page({ search: n }, 0, 200)
          .rows.some(each => each.state === 'delivered' && each.about.split(' · ').includes(n));
      const left = () => [...world.acknowledged].filter(n => !delivered.has(n) && !isDelivered(n));
      await eventually(left, each => each.length === 0).catch(() => lost.push(...left()));
      for (const n of world.acknowledged) delivered.add(n);
    }
    const twice = [...world.target.keys].filter(([, keys]) => keys.size > 1).map(([what]) => what);
    expect({ lost, twice, usedTwice: world.target.usedTwice, empty }).toEqual({
      lost: [],
      twice: [],
      usedTwice: [],
      empty: [],
    });
    expect(world.target.keys.size).toBeGreaterThan(CUTS);
  },
  60_000 + CUTS * 20_000,
);
