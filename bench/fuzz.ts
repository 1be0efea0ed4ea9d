import { decode, KnownShapes } from '@grammata/core/decode';
import { payloads } from './payloads/score';
import { Chance } from './reading/draw';

/**
 * Hard payloads, changed at random, over and over: none may throw, take longer than a second a MB (and a moment), or be told as
 * failed. `npm run fuzz`, with how many as the argument; a million takes hours.
 */
const count = Number(process.argv[2] ?? 20_000);
const seed = Number(process.argv[3] ?? 1);

/** What a reading may take whatever its size, in ms: others may have the machine for a moment. */
const MOMENT = 250;
const A_MB = 1000;

const bodies = payloads.map(({ text, base64, contentType, query }) => ({
  bytes: text === undefined ? Buffer.from(base64!, 'base64') : Buffer.from(text),
  contentType,
  query,
  // As an intake would get them: what is known of the shape must not break either.
  shapes: new KnownShapes(),
}));
const types = [...new Set(bodies.map(each => each.contentType))];
const pieces = ['{', '}', '[', ']', '"', ',', ':', '\n', '\r\n', '\\', '&', '=', '<', '>', '</a>', '--', '\u0000', '%', "''", '=?', '?=', '\ufeff', '__proto__', 'null', '1e999', '-'].map(each => Buffer.from(each)); // prettier-ignore

/** One of the ways in which bytes come broken: cut, doubled, swapped, filled with marks, two messages in one. */
function mutated(bytes: Buffer, chance: Chance): Buffer {
  const at = chance.below(bytes.length + 1);
  const to = Math.min(bytes.length, at + chance.below(60));
  switch (chance.below(6)) {
    case 0:
      return Buffer.concat([bytes.subarray(0, at), bytes.subarray(to)]);
    case 1:
      return Buffer.concat([bytes.subarray(0, at), chance.of(pieces), bytes.subarray(at)]);
    case 2:
      return Buffer.concat([bytes.subarray(0, to), bytes.subarray(at, to), bytes.subarray(to)]);
    case 3: {
      const other = chance.of(bodies).bytes;
      return Buffer.concat([bytes.subarray(0, at), other.subarray(chance.below(other.length + 1))]);
    }
    case 4: {
      const changed = Buffer.from(bytes);
      if (changed.length > 0) changed[at % changed.length] = chance.below(256);
      return changed;
    }
    default:
      return bytes.subarray(0, at);
  }
}

let [slowest, failed, slow] = [0, 0, 0];
const chance = new Chance(seed);
for (let run = 0; run < count; run++) {
  const { bytes, contentType, query, shapes } = chance.of(bodies);
  let body: Buffer = bytes;
  for (let times = 1 + chance.below(4); times > 0; times--) body = mutated(body, chance);
  const type = chance.is(0.2) ? chance.of(types) : contentType;
  const started = process.cpuUsage();
  const { notes } = decode(body, type, query, {}, {}, chance.is(0.5) ? shapes : undefined);
  // What it takes of the machine, whatever else the machine does.
  const { user, system } = process.cpuUsage(started);
  const ms = (user + system) / 1000;
  const most = MOMENT + (A_MB * body.length) / 1e6;
  slowest = Math.max(slowest, ms / most);
  const isFailed = notes.some(({ code }) => code === 'media.failed' || code === 'envelope.failed');
  if (isFailed) failed += 1;
  if (ms > most) slow += 1;
  if (isFailed || ms > most)
    console.log(`${ms.toFixed(0)} ms, ${type}: ${notes.map(({ message }) => message).join(' ').slice(0, 200)}\n${body.toString('base64').slice(0, 2000)}`); // prettier-ignore
}
console.log(`${count} changed payloads: ${failed} failed inside, ${slow} took too long, the slowest ${(100 * slowest).toFixed(0)} % of what it may`); // prettier-ignore
if (failed + slow > 0) process.exitCode = 1;
